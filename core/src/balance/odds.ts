import { chainOf, type Graph, graphOf, type Node, type Reading, readingsOf } from '../chain'
import type { Figure, Patch, Shelf, Source } from '../model'
import { normal, random } from '../signals'
import { amplitudeDb } from '../units'
import { type AimedRecording, aimsOf, ratiosOf, upstreamOf } from './aims'

/** How sure the plan is for one recording. */
export interface TrackOdds {
  box: string
  boxName: string
  track: string
  name: string
  /** Automatic gain sets its level: no setting before it makes it safer. */
  automatic: boolean
  /** Chance that some source, at its loudest, passes some ceiling on the way. */
  clipping: number
  /** Ceiling that is passed most often: the part it belongs to, and in which share of the draws. */
  first: { part: string; name: string; chance: number } | undefined
  /** Speech-to-noise of its worst source: what one draw in twenty falls under, the middle, what one exceeds. */
  speechToNoiseDb: { low: number; middle: number; high: number }
}

export interface Odds {
  draws: number
  seed: number
  tracks: TrackOdds[]
}

/** A tolerance holds 95 % of the boxes: two standard deviations. */
const deviationsInTolerance = 2
/** Deviation of a voice or a strike from its plan, standard deviation in dB: a rule of thumb. A line feed is set. */
export const spreadDb: Record<Source['kind'], number> = {
  speech: 3,
  strike: 2,
  music: 2,
  machine: 2,
  line: 1,
}

/** Results of all draws for one recording. */
interface Tally {
  recording: AimedRecording
  /** Nodes on the way to it. */
  nodes: number[]
  clipped: number
  passed: Map<number, number>
  ratios: Float64Array
}

/**
 * How the recordings of a patch come out when every figure lies somewhere within its tolerance and every voice is a
 * little louder or softer than planned. Every draw is the whole chain computed again. The same seed gives the same
 * answer on every machine.
 *
 * @param draws how many; the chances are sure to about 1 / sqrt(draws)
 */
export function oddsOf(patch: Patch, shelf: Shelf, draws: number, seed: number): Odds {
  const graph = graphOf(patch, shelf)
  const readings = readingsOf(graph)
  const tallies = aimsOf(graph, patch.plan).recordings.map((recording): Tally => ({
    recording,
    nodes: [...upstreamOf(graph, recording.end.node)],
    clipped: 0,
    passed: new Map(),
    ratios: new Float64Array(draws),
  }))
  const drawn = new Draws(graph, readings, seed)
  const sources = [...new Map(graph.origins.map(({ source }) => [source.id, source])).values()]
  const voices = sources.map(({ id, kind }) => drawn.of(`voice of ${id}`, spreadDb[kind]))
  for (let draw = 0; draw < draws; draw++) {
    const chain = chainOf(
      graph,
      drawn.readings(),
      voices.map((voice) => voice()),
    )
    for (const tally of tallies) {
      tally.ratios[draw] = ratiosOf(chain, tally.recording).all
      let clips = false
      for (const node of tally.nodes) {
        const { inputCeilingDb, outputCeilingDb } = chain.readings[node]!
        const passes =
          (inputCeilingDb < Infinity && amplitudeDb(chain.peakBefore(node)) > inputCeilingDb) ||
          (outputCeilingDb < Infinity && amplitudeDb(chain.peakAfter(node)) > outputCeilingDb)
        if (!passes) continue
        clips = true
        tally.passed.set(node, (tally.passed.get(node) ?? 0) + 1)
      }
      if (clips) tally.clipped++
    }
  }
  return { draws, seed, tracks: tallies.map((tally) => oddsFrom(graph, tally, draws)) }
}

function oddsFrom(graph: Graph, { recording, clipped, passed, ratios }: Tally, draws: number): TrackOdds {
  const { end } = recording
  const sorted = ratios.slice().sort()
  const share = (part: number) => sorted[Math.round((draws - 1) * part)]!
  const [most] = [...passed].sort(([, one], [, other]) => other - one)
  const place = most && graph.nodes[most[0]]!
  return {
    box: end.box,
    boxName: graph.nodes[end.node]!.partName,
    track: end.stage.kind === 'recording' ? end.stage.track : '',
    name: end.stage.name,
    automatic: recording.automatic,
    clipping: clipped / draws,
    first: place && {
      part: place.part,
      name: `${place.partName}, ${place.name.toLowerCase()}`,
      chance: most[1] / draws,
    },
    speechToNoiseDb: { low: share(0.05), middle: share(0.5), high: share(0.95) },
  }
}

/** Draws of everything that a graph is not sure of, one after the other. */
class Draws {
  private readonly shifts: readonly Shift[]
  private readonly named = new Map<string, Named>()

  constructor(
    graph: Graph,
    private readonly planned: readonly Reading[],
    private readonly seed: number,
  ) {
    this.shifts = graph.nodes.flatMap((node) => this.shiftsOf(node))
  }

  /** Normal draws with a name and a deviation, dB. One figure of one box is off by the same in every strip that has it. */
  of(name: string, deviationDb: number): () => number {
    const known = this.named.get(name) ?? { next: normal(random(hashed(name, this.seed))), now: 0 }
    this.named.set(name, known)
    return () => deviationDb * known.now
  }

  /** Readings of the next draw. Voices are drawn with them. */
  readings(): Reading[] {
    for (const each of this.named.values()) each.now = each.next()
    const readings = this.planned.slice()
    for (const { node, fields, shiftDb } of this.shifts) {
      const byDb = shiftDb()
      const reading = { ...readings[node]! }
      for (const [field, sign] of fields) reading[field] += sign * byDb
      readings[node] = reading
    }
    return readings
  }

  private shiftsOf({ index, stage, part }: Node): Shift[] {
    if (!stage) return []
    const off = (field: string, figure: Figure | undefined, ...fields: Shift['fields']): Shift[] => {
      if (typeof figure !== 'object' || figure.tolerance === 0) return []
      const shiftDb = this.of(
        `${part} ${stage.name ?? stage.kind} ${field}`,
        figure.tolerance / deviationsInTolerance,
      )
      return [{ node: index, fields, shiftDb }]
    }
    switch (stage.kind) {
      case 'transducer':
        return [
          ...off('sensitivity', stage.sensitivityDbvPa, ['gainDb', 1]),
          ...off('self-noise', stage.selfNoiseDba, ['inputNoiseDb', 1]),
          ...off('maximum', stage.maximumDbSpl, ['inputCeilingDb', 1]),
        ]
      case 'gain':
        return [
          ...off('input noise', stage.inputNoiseDbuA, ['inputNoiseDb', 1]),
          ...off('output noise', stage.outputNoiseDbuA, ['outputNoiseDb', 1]),
          ...off('input ceiling', stage.inputCeilingDbu, ['inputCeilingDb', 1]),
          ...off('output ceiling', stage.outputCeilingDbu, ['outputCeilingDb', 1]),
        ]
      case 'pad':
        return off('output noise', stage.outputNoiseDbuA, ['outputNoiseDb', 1])
      case 'converter-in':
        return [
          ...off('full scale', stage.fullScaleDbu, ['gainDb', -1], ['inputCeilingDb', 1]),
          ...off('noise', stage.noiseDbfsA, ['outputNoiseDb', 1]),
        ]
      case 'converter-out':
        return [
          ...off('full scale', stage.fullScaleDbu, ['gainDb', 1]),
          ...off('output noise', stage.outputNoiseDbuA, ['outputNoiseDb', 1]),
        ]
      case 'radio':
        return [
          ...off('ceiling', stage.ceilingDbu, ['inputCeilingDb', 1], ['outputNoiseDb', 1]),
          ...off('range', stage.dynamicRangeDb, ['outputNoiseDb', -1]),
        ]
      default:
        return []
    }
  }
}

interface Named {
  next: () => number
  now: number
}

/** Figures of a node that one draw moves, each up or down. */
interface Shift {
  node: number
  fields: [
    field: 'gainDb' | 'inputNoiseDb' | 'outputNoiseDb' | 'inputCeilingDb' | 'outputCeilingDb',
    sign: 1 | -1,
  ][]
  shiftDb: () => number
}

/** A seed for a name: FNV-1a over its letters, on top of the seed of the whole. */
function hashed(name: string, seed: number): number {
  let hash = (2166136261 ^ seed) >>> 0
  for (let index = 0; index < name.length; index++)
    hash = Math.imul(hash ^ name.charCodeAt(index), 16777619) >>> 0
  return hash
}
