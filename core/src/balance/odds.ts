import {
  type At,
  type End,
  type Flow,
  flowAfter,
  flowOf,
  type Graph,
  graphOf,
  levelsOfGraph,
  type Node,
  noisePower,
  type Path,
  pathsOf,
  whereItStops,
} from '../levels'
import type { Figure, Patch, Shelf, Source } from '../model'
import { normal, random } from '../signals'
import { powerDb, sineEquivalentPeakDb } from '../units'

/** How sure the plan is for one recording. */
export interface TrackOdds {
  box: string
  boxName: string
  track: string
  name: string
  /** Chance that some source, at its loudest, passes some ceiling on the way. */
  clipping: number
  /** Ceiling that is passed most often: the part it belongs to, and in which share of the draws. */
  first: { part: string; name: string; chance: number } | undefined
  /** Speech over noise of its worst source: what one draw in twenty falls under, the middle, what one exceeds. */
  speechToNoiseDb: { low: number; middle: number; high: number }
}

export interface Odds {
  draws: number
  seed: number
  tracks: TrackOdds[]
}

/** A tolerance holds 95 % of the boxes: two standard deviations. */
const deviationsInTolerance = 2
/** How far a voice or a strike lies off its plan, standard deviation in dB: a rule of thumb. A line feed is set. */
export const spreadDb: Record<Source['kind'], number> = {
  speech: 3,
  strike: 2,
  music: 2,
  machine: 2,
  line: 1,
}

/**
 * How the recordings of a patch come out when every figure lies somewhere within its tolerance and every voice is a
 * little louder or softer than planned. All draws run through the chain together, a stage at a time. The same seed
 * gives the same answer on every machine.
 *
 * @param draws how many; the chances are sure to about 1 / sqrt(draws)
 */
export function oddsOf(patch: Patch, shelf: Shelf, draws: number, seed: number): Odds {
  const graph = graphOf(patch, shelf)
  const at: At = (key) => graph.settings.get(key)!
  const levels = levelsOfGraph(graph, at)
  const paths = pathsOf(graph)
  const recorded = paths.filter(
    ({ end }, index) => end.stage.kind === 'recording' && !whereItStops(levels.runs[index]!),
  )
  const chance = chances(seed, draws)
  const noises = noiseArrays(graph, at, chance, draws)
  const byEnd = new Map<End, { clipped: Uint8Array; worst: Float64Array; places: Map<Node, number> }>()
  for (const path of recorded) {
    const known = byEnd.get(path.end) ?? {
      clipped: new Uint8Array(draws),
      worst: new Float64Array(draws).fill(Infinity),
      places: new Map<Node, number>(),
    }
    byEnd.set(path.end, known)
    drawAlong(graph, path, at, chance, noises, known)
  }
  return {
    draws,
    seed,
    tracks: [...byEnd].map(([end, { clipped, worst, places }]) => {
      const node = graph.nodes[end.node]!
      const sorted = worst.slice().sort()
      const share = (part: number) => sorted[Math.round((draws - 1) * part)]!
      const [most] = [...places].sort(([, one], [, other]) => other - one)
      return {
        box: end.box,
        boxName: node.partName,
        track: end.stage.kind === 'recording' ? end.stage.track : '',
        name: end.stage.name,
        clipping: clipped.reduce((sum, each) => sum + each, 0) / draws,
        first: most && {
          part: most[0].part,
          name: `${most[0].partName}, ${most[0].name.toLowerCase()}`,
          chance: most[1] / draws,
        },
        speechToNoiseDb: { low: share(0.05), middle: share(0.5), high: share(0.95) },
      }
    }),
  }
}

/** Normal draws by name: one figure of one box is off by the same in every strip that has it. */
function chances(seed: number, draws: number): (name: string) => Float64Array {
  const known = new Map<string, Float64Array>()
  return (name) => {
    let found = known.get(name)
    if (!found) {
      const next = normal(random(hashed(name, seed)))
      found = Float64Array.from({ length: draws }, next)
      known.set(name, found)
    }
    return found
  }
}

/** A seed for a name: FNV-1a over its letters, on top of the seed of the whole. */
function hashed(name: string, seed: number): number {
  let hash = (2166136261 ^ seed) >>> 0
  for (let index = 0; index < name.length; index++)
    hash = Math.imul(hash ^ name.charCodeAt(index), 16777619) >>> 0
  return hash
}

/** What a node's tolerances move: arrays of dB to be added, or nothing. */
interface Shifts {
  gain?: Float64Array
  inputNoise?: Float64Array
  outputNoise?: Float64Array
  inputCeiling?: Float64Array
  outputCeiling?: Float64Array
}

function shiftsOf({ stage, part }: Node, chance: (name: string) => Float64Array): Shifts {
  if (!stage) return {}
  const off = (field: string, figure: Figure | undefined): Float64Array | undefined => {
    if (typeof figure !== 'object' || figure.tolerance === 0) return undefined
    const scale = figure.tolerance / deviationsInTolerance
    return chance(`${part} ${stage.name ?? stage.kind} ${field}`).map((each) => each * scale)
  }
  const turned = (shift: Float64Array | undefined) => shift?.map((each) => -each)
  switch (stage.kind) {
    case 'transducer':
      return {
        gain: off('sensitivity', stage.sensitivityDbvPa),
        inputNoise: off('self-noise', stage.selfNoiseDba),
        inputCeiling: off('maximum', stage.maximumDbSpl),
      }
    case 'gain':
      return {
        inputNoise: off('input noise', stage.inputNoiseDbuA),
        outputNoise: off('output noise', stage.outputNoiseDbuA),
        inputCeiling: off('input ceiling', stage.inputCeilingDbu),
        outputCeiling: off('output ceiling', stage.outputCeilingDbu),
      }
    case 'pad':
      return { outputNoise: off('output noise', stage.outputNoiseDbuA) }
    case 'converter-in': {
      const scale = off('full scale', stage.fullScaleDbu)
      return { gain: turned(scale), inputCeiling: scale, outputNoise: off('noise', stage.noiseDbfsA) }
    }
    case 'converter-out':
      return {
        gain: off('full scale', stage.fullScaleDbu),
        outputNoise: off('output noise', stage.outputNoiseDbuA),
      }
    case 'radio': {
      const ceiling = off('ceiling', stage.ceilingDbu)
      const range = off('range', stage.dynamicRangeDb)
      const noise =
        ceiling || range
          ? (ceiling ?? range!).map((_, draw) => (ceiling?.[draw] ?? 0) - (range?.[draw] ?? 0))
          : undefined
      return { inputCeiling: ceiling, outputNoise: noise }
    }
    default:
      return {}
  }
}

const silence: Flow = { quietestDb: -200, typicalDb: -200, loudestDb: -200, crestDb: 12, sourceOhm: 150 }
const followsLevel = ({ stage }: Node) => stage?.kind === 'agc' || stage?.kind === 'limiter'

/** Noise power after each node in its own unit, draw by draw: what a neighbour on a mix brings in. Only where there is a mix. */
function noiseArrays(
  graph: Graph,
  at: At,
  chance: (name: string) => Float64Array,
  draws: number,
): Float64Array[] | undefined {
  if (!graph.nodes.some(({ kind }) => kind === 'sum')) return undefined
  const after: Float64Array[] = []
  for (const node of graph.nodes) {
    const power = new Float64Array(draws)
    for (const feed of node.feeds)
      for (let draw = 0; draw < draws; draw++) power[draw]! += after[feed]![draw]!
    const origin = graph.origins.find((each) => each.node === node.index)
    if (origin && origin.placeNoiseDb > -Infinity) power.fill(noisePower(origin.placeNoiseDb))
    const effect = node.effect(silence, at)
    const { gain, inputNoise, outputNoise } = shiftsOf(node, chance)
    const steady = noisePower(effect.typicalGainDb)
    for (let draw = 0; draw < draws; draw++)
      power[draw] =
        (power[draw]! + noisePower(effect.inputNoiseDb + (inputNoise?.[draw] ?? 0))) *
          (gain ? noisePower(effect.typicalGainDb + gain[draw]!) : steady) +
        noisePower(effect.outputNoiseDb + (outputNoise?.[draw] ?? 0))
    after.push(power)
  }
  return after
}

/** One way from a source to a recording, for all draws at once. */
function drawAlong(
  graph: Graph,
  { origin, nodes }: Path,
  at: At,
  chance: (name: string) => Float64Array,
  noises: Float64Array[] | undefined,
  into: { clipped: Uint8Array; worst: Float64Array; places: Map<Node, number> },
): void {
  const draws = into.clipped.length
  const voice = chance(`voice of ${origin.source.id}`)
  const spread = spreadDb[origin.source.kind]
  const peakOver = sineEquivalentPeakDb(0, origin.source.crestDb)
  const start = flowOf(origin)
  // levels of each draw, and the gain from the source as a ratio of powers
  const typical = Float64Array.from(voice, (each) => start.typicalDb + spread * each)
  const loudest = Float64Array.from(voice, (each) => start.loudestDb + spread * each)
  const source = typical.slice()
  const power = new Float64Array(draws).fill(1)
  const collected = new Float64Array(draws)
  let flow = start
  const ceil = (node: Node, ceilingDb: number, shift: Float64Array | undefined) => {
    if (ceilingDb === Infinity) return
    let times = 0
    for (let draw = 0; draw < draws; draw++)
      if (loudest[draw]! + peakOver > ceilingDb + (shift?.[draw] ?? 0)) {
        times++
        into.clipped[draw] = 1
      }
    if (times) into.places.set(node, Math.max(times, into.places.get(node) ?? 0))
  }
  const hiss = (levelDb: number, shift: Float64Array | undefined) => {
    if (levelDb === -Infinity) return
    const steady = noisePower(levelDb)
    for (let draw = 0; draw < draws; draw++)
      collected[draw]! += (shift ? noisePower(levelDb + shift[draw]!) : steady) / power[draw]!
  }
  nodes.forEach((index, step) => {
    const node = graph.nodes[index]!
    if (node.kind === 'sum' && noises)
      for (const feed of node.feeds)
        if (feed !== nodes[step - 1])
          for (let draw = 0; draw < draws; draw++) collected[draw]! += noises[feed]![draw]! / power[draw]!
    const effect = node.effect(flow, at)
    const shifts = shiftsOf(node, chance)
    ceil(node, effect.inputCeilingDb, shifts.inputCeiling)
    hiss(effect.inputNoiseDb, shifts.inputNoise)
    if (followsLevel(node))
      for (let draw = 0; draw < draws; draw++) {
        const each = node.effect({ ...flow, typicalDb: typical[draw]!, loudestDb: loudest[draw]! }, at)
        typical[draw]! += each.typicalGainDb
        loudest[draw]! += each.loudestGainDb
        power[draw]! *= noisePower(each.typicalGainDb)
      }
    else {
      const steady = noisePower(effect.typicalGainDb)
      for (let draw = 0; draw < draws; draw++) {
        const off = shifts.gain?.[draw] ?? 0
        typical[draw]! += effect.typicalGainDb + off
        loudest[draw]! += effect.loudestGainDb + off
        power[draw]! *= off === 0 ? steady : noisePower(effect.typicalGainDb + off)
      }
    }
    flow = flowAfter(flow, effect)
    hiss(effect.outputNoiseDb, shifts.outputNoise)
    ceil(node, effect.outputCeilingDb, shifts.outputCeiling)
  })
  const place = noisePower(origin.placeNoiseDb)
  for (let draw = 0; draw < draws; draw++)
    into.worst[draw] = Math.min(into.worst[draw]!, source[draw]! - powerDb(collected[draw]! + place))
}
