import type { Gear, Position, Source, Stage } from '../model'
import type { At, EffectOf } from './effect'

export type Domain = 'pressure' | 'volts' | 'digital'

/** One place in the chain through which signal runs. Feeds are indices of earlier nodes. */
export interface Node {
  index: number
  id: string
  /** The box or piece it belongs to. */
  part: string
  partName: string
  name: string
  kind: Stage['kind'] | 'origin' | 'piece' | 'junction' | 'sum'
  stage?: Stage
  domain: Domain
  feeds: number[]
  /** Controls that change what it does, as `part.control`. */
  controls: string[]
  /** Which way up it passes on what it is fed; left out: as it comes. */
  sign?: 1 | -1
  effect: EffectOf
  /** Of linked automatic gain: its own controls, the nodes that turn with it, and the level at which what never pauses holds them. */
  own?: string[]
  linked?: number[]
  heldDb?: (at: At) => number
}

/** A source as it enters the chain: at a capsule, or at the output of a desk. */
export interface Origin {
  node: number
  source: Source
  unit: 'dB SPL' | 'dBu'
  quietestDb: number
  typicalDb: number
  loudestDb: number
  /** Diffuse noise of the place as this microphone takes it in, or what comes with a line feed; -Infinity for none. */
  placeNoiseDb: number
  /** The room's own echo of the source at its typical level, as this microphone takes it in; -Infinity for none. */
  echoDb: number
  /** Wind at the microphone itself, part of the noise of the place; -Infinity for none. */
  windDb: number
}

/** Where a run ends: a track being written, or a pair of ears. */
export interface End {
  node: number
  box: string
  gear: Gear
  stage: Extract<Stage, { kind: 'recording' | 'listen' }>
}

/** The chain as a graph in order of flow. Structure only: settings come in with every evaluation. */
export interface Graph {
  nodes: Node[]
  origins: Origin[]
  ends: End[]
  /** Every control of the chain with its gear's initial or set position. */
  settings: Map<string, Position>
  /** Figures nobody knows, for which the typical value stands. */
  assumptions: string[]
}
