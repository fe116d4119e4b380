import type { TakenIn } from '../acoustics'
import type { Assumption, CircuitFinding } from '../findings'
import { type Gear, known, type Position, type Source, type Stage } from '../model'
import type { PositionOf, Read, Reading } from './reading'

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
  read: Read
  /** Polarity of what it passes on; left out: unchanged. */
  sign?: 1 | -1
  /** How much later it passes it on, seconds. */
  delayS?: number
  /** Why nothing passes here: the finding of the wiring or the radio. */
  stop?: CircuitFinding
  /** Nodes whose automatic gain is linked with this one's. */
  linked?: number[]
}

/** A source as it enters the chain: at a capsule, or at the output of a desk. */
export interface Origin {
  node: number
  source: Source
  unit: 'dB SPL' | 'dBu'
  quietestDb: number
  typicalDb: number
  loudestDb: number
  /** From the source to the capsule through the air, seconds. */
  delayS: number
  /** The room's own echo of the source at its typical level, as this microphone takes it in; -Infinity for none. */
  echoDb: number
}

/** Noise at an entry while nobody speaks: the place at a microphone, or the noise that comes with a feed. */
export interface EntryNoise {
  node: number
  noises: TakenIn[]
  /** A-weighted level of all of them together. */
  levelDb: number
  /** Wind at the microphone itself, part of it; -Infinity for none. */
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
  /** Node indices in evaluation order; nodes whose automatic gain is linked share a step. */
  steps: number[][]
  origins: Origin[]
  entryNoises: EntryNoise[]
  ends: End[]
  /** Every control of the chain with its gear's initial or set position. */
  settings: Map<string, Position>
  /** Unknown figures that are replaced by typical ones. */
  assumptions: Assumption[]
}

/** Share that passes a dead link: a level no working chain comes down to, and still a finite number. */
export const deadFactor = 1e-10

/** Whether a source goes on while somebody else pauses. */
export const neverPauses = (source: Source): boolean => source.kind !== 'speech' && source.kind !== 'strike'

/** Rise time of a loud moment to its peak, ms, for a voice and for a blow. A limiter may be slower. */
export const riseMsOf = ({ kind }: Source): number => (kind === 'strike' ? strikeRiseMs : voiceRiseMs)
export const voiceRiseMs = 10
export const strikeRiseMs = 1

/** Whether a source has pauses of its own: a house feed may stop, music and machines do not. */
export const hasPauses = (source: Source): boolean => source.kind !== 'music' && source.kind !== 'machine'

/**
 * Sources whose first word after a pause an automatic gain meets, of those that pass it: voices, or where there are none
 * what else may stop.
 */
export function comingBack(passing: readonly Source[]): Source[] {
  const voices = passing.filter((source) => !neverPauses(source))
  return voices.length ? voices : passing.filter(hasPauses)
}

/** Whether the gain of a node follows a level with the given settings. */
export const acts = (node: Node, at: Parameters<Read>[0]): boolean => node.read(at).follows !== undefined

/** Position of every control as set in the patch. */
export const asSet =
  ({ settings }: { settings: ReadonlyMap<string, Position> }): PositionOf =>
  (key) =>
    // asked in the innermost loops: the words are made only where they are needed
    settings.get(key) ?? known<Position>(undefined, `control ${key}`)

/** The reading of every node. @param at position of every control; by default as set in the patch */
export const readingsOf = (graph: Graph, at: PositionOf = asSet(graph)): Reading[] =>
  graph.nodes.map(({ read }) => read(at))
