import { type Graph, hasPauses, neverPauses } from './graph'
import { type FollowingStage } from './reading'
import { plannedPauseS } from './states'
import { type Table, tableOf } from './table'
import { agcGainAfterDb, settledAgcGainDb } from '../dynamics'
import { powerDb, powerFromDb } from '../units'
import type { SpanOf } from './reading-span'
import { type Sounding, whiteOverWeighted } from './heard'
import { levelSpanDb, type Span, type Spans, sourceSpan } from './span-walk'
import { type Way, waysTo } from './ways'

/*
 * What automatic gain opens by in a pause hangs on how far the level falls there, and voice and noise behind a sum rise
 * and fall together: the fall is known far better than either level. It is worked out along the way of the voice, all
 * noise in units of the voice's own power.
 */

type Agc = Extract<FollowingStage, { kind: 'agc' }>

/** Bounds for one source at a node with automatic gain. */
export interface Beside {
  /** Least rise of the level there due to everything beside the source while it speaks, dB. */
  liftDb: number
  /** How far the level falls at least when the source pauses, dB. -Infinity where nothing can be said. */
  fallDb: number
}

/** For a source and a node with automatic gain; undefined where its ways there are several or hang on other following stages. */
export type BesideAt = (
  source: number,
  node: number,
  spanOf: SpanOf,
  typical: Spans,
  pause: Spans,
) => Beside | undefined

/** @param wholeOf every node over all positions */
export function besideOn(graph: Graph, wholeOf: SpanOf): BesideAt {
  const table = tableOf(graph)
  const wayTo = graph.nodes.map(({ index }) =>
    wholeOf(index).follows?.kind === 'agc' ? singleWays(graph, table, index, wholeOf) : [],
  )
  return (source, node, spanOf, typical, pause) => {
    const at = (member: number): Beside | undefined => {
      const way = wayTo[member]![source]
      if (!way) return undefined
      const { least, most } = noiseOverSource(way, spanOf, typical, pause)
      return { liftDb: powerDb(1 + least), fallDb: powerDb((1 + least) / most) }
    }
    const own = at(node)
    if (!own) return undefined
    let { fallDb } = own
    // of linked channels the loudest decides
    for (const other of graph.nodes[node]!.linked ?? [])
      fallDb = Math.min(fallDb, at(other)?.fallDb ?? -Infinity)
    return { liftDb: own.liftDb, fallDb }
  }
}

/** The only path of a source to a node, with the data that are the same in every region. */
interface SingleWay {
  source: number
  /** Power of the source at its entry, and bounds on what the place adds there. */
  entryPower: number
  placeLeast: number
  placeMost: number
  /** Sources that never pause. */
  others: readonly number[]
  steps: readonly WayStep[]
}

interface WayStep {
  node: number
  /** The node before it on the path, and its other feeds, if any. */
  own: number
  joining: readonly number[]
  /** Whether a low-cut behind this may remove what joins. */
  isCutLater: boolean
}

/** For each source its only way to a node, where nothing on it follows the level or brings the same thing twice. */
function singleWays(graph: Graph, table: Table, node: number, wholeOf: SpanOf): (SingleWay | undefined)[] {
  const ways = waysTo(graph, node, wholeOf)
  const entries = (index: number): number[] => {
    const { feeds } = graph.nodes[index]!
    return feeds.length ? feeds.flatMap(entries) : [index]
  }
  const reached = entries(node)
  const comesOnce = (entry: number) => reached.filter((each) => each === entry).length === 1
  return table.sources.map(({ source }, index) => {
    const own = ways.filter((way) => way.source === index)
    const [way] = own
    if (own.length !== 1 || !hasPauses(source) || !reached.every(comesOnce)) return undefined
    const isPlain = way!.nodes
      .slice(0, -1)
      .every((each) => !wholeOf(each).follows && !graph.nodes[each]!.stop)
    return isPlain ? singleWay(graph, table, way!, wholeOf) : undefined
  })
}

function singleWay(
  graph: Graph,
  table: Table,
  { source, origin, nodes, entryNoise, mostCut, leastCut }: Way,
  wholeOf: SpanOf,
): SingleWay {
  const place = (filter: number) =>
    entryNoise === undefined ? 0 : table.entryNoiseLeft(entryNoise, filter).plain
  return {
    source,
    entryPower: table.amplitudeOfOrigin[origin]! ** 2,
    placeLeast: place(mostCut),
    placeMost: place(leastCut),
    others: [...table.sources.keys()].filter(
      (index) => index !== source && neverPauses(table.sources[index]!.source),
    ),
    steps: nodes.map((node, step) => {
      const own = nodes[step - 1] ?? node
      const { feeds } = graph.nodes[node]!
      return {
        node,
        own,
        joining: step > 0 ? feeds.filter((feed) => feed !== own) : [],
        isCutLater: nodes.slice(step).some((each) => wholeOf(each).lowCutsHz.length > 0),
      }
    }),
  }
}

/**
 * All that sounds beside a source before the last node of its way, in units of its power: the least while it speaks and
 * the most while it pauses.
 */
function noiseOverSource(
  { entryPower, placeLeast, placeMost, others, steps }: SingleWay,
  spanOf: SpanOf,
  typical: Spans,
  pause: Spans,
): { least: number; most: number } {
  let beside = 0
  for (const other of others) beside += sourceSpan(typical.before[steps[0]!.node]!, other).high ** 2
  let least = (beside + placeLeast) / entryPower
  let most = (beside + placeMost) / entryPower
  let [gainLow, gainHigh] = [entryPower, entryPower]
  for (let at = 0; at < steps.length; at++) {
    const step = steps[at]!
    if (step.joining.length > 0) {
      most += joiningPower(step, pause, others).high / gainLow
      if (!step.isCutLater) least += joiningPower(step, typical, others).low / gainHigh
    }
    if (at === steps.length - 1) break
    const span = spanOf(step.node)
    least += (span.inputNoiseLow * whiteOverWeighted) / gainHigh
    most += (span.inputNoiseHigh * whiteOverWeighted) / gainLow
    gainLow *= span.gainLow ** 2
    gainHigh *= span.gainHigh ** 2
    least += (span.outputNoiseLow * whiteOverWeighted) / gainHigh
    most += (span.outputNoiseHigh * whiteOverWeighted) / gainLow
  }
  return { least, most }
}

const nobody: Sounding = { sources: [], placeAtLoudest: false }

/** Power of the other feeds of a node. */
function joiningPower(
  { node, own, joining }: WayStep,
  { before, after }: Spans,
  others: readonly number[],
): Span {
  let [low, high] = [0, 0]
  for (const feed of joining) {
    const span = levelSpanDb(after[feed]!, nobody)
    low += powerFromDb(span.low)
    high += powerFromDb(span.high)
  }
  for (const other of others) {
    const all = sourceSpan(before[node]!, other)
    high += all.high ** 2
    // sources that come with the feed itself are in its sum already, and may cancel here
    if (sourceSpan(after[own]!, other).high === 0) low += all.low ** 2
  }
  return { low, high }
}

/**
 * The least that automatic gain opens by in a pause, dB: over every pair of levels before and in it that lies within two
 * spans and apart by a fall. Gains are straight lines between their corners: the least is at one of those.
 */
export function leastRiseDb(agc: Agc, spoken: Span, paused: Span, fallDb: number): number {
  const first = Math.min(spoken.high, Math.max(spoken.low, paused.low + fallDb))
  const corners = [agc.target - agc.maximumGainDb, agc.target - agc.minimumGainDb]
  const speaking = [
    first,
    spoken.high,
    paused.high + fallDb,
    ...corners,
    ...corners.map((each) => each + fallDb),
  ]
  let least = Infinity
  for (const level of speaking) {
    if (level < first || level > spoken.high) continue
    const silence = Math.max(paused.low, Math.min(paused.high, level - fallDb))
    least = Math.min(least, settledAgcGainDb(agc, silence) - settledAgcGainDb(agc, level))
  }
  return agcGainAfterDb(agc, 0, least, plannedPauseS)
}
