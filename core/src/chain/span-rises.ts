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

/** What is known of a source at a node with automatic gain. */
export interface Beside {
  /** What sounds beside the source while it speaks lifts the level there by this at least, dB. */
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
      const { least, most } = noiseOverSource(graph, table, way, wholeOf, spanOf, typical, pause)
      return { liftDb: powerDb(1 + least), fallDb: powerDb((1 + least) / most) }
    }
    const own = at(node)
    return (
      own && {
        ...own,
        // the loudest of those that turn together decides
        fallDb: Math.min(
          own.fallDb,
          ...(graph.nodes[node]!.linked ?? []).map((other) => at(other)?.fallDb ?? -Infinity),
        ),
      }
    )
  }
}

/** For each source its only way to a node, where nothing on it follows the level or brings the same thing twice. */
function singleWays(graph: Graph, table: Table, node: number, wholeOf: SpanOf): (Way | undefined)[] {
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
    return isPlain ? way : undefined
  })
}

/**
 * All that sounds beside a source before the last node of its way, in units of its power: the least while it speaks and
 * the most while it pauses.
 */
function noiseOverSource(
  graph: Graph,
  table: Table,
  { source, origin, nodes, entryNoise, mostCut, leastCut }: Way,
  wholeOf: SpanOf,
  spanOf: SpanOf,
  typical: Spans,
  pause: Spans,
): { least: number; most: number } {
  const others: Sounding = {
    sources: table.sources.map((each, index) => (index !== source && neverPauses(each.source) ? 1 : 0)),
    placeAtLoudest: false,
  }
  const power = table.amplitudeOfOrigin[origin]! ** 2
  const beside = table.sources.reduce(
    (sum, _, index) =>
      sum + (others.sources[index]! && sourceSpan(typical.before[nodes[0]!]!, index).high ** 2),
    0,
  )
  const place = (filter: number) =>
    entryNoise === undefined ? 0 : table.entryNoiseLeft(entryNoise, filter).plain
  let least = (beside + place(mostCut)) / power
  let most = (beside + place(leastCut)) / power
  let [gainLow, gainHigh] = [power, power]
  nodes.forEach((index, step) => {
    if (step > 0 && graph.nodes[index]!.feeds.length > 1) {
      const own = nodes[step - 1]!
      const joining = (spans: Spans) => joiningPower(graph, spans, index, own, others)
      most += joining(pause).high / gainLow
      // a low-cut further on may take it away again
      if (!nodes.slice(step).some((each) => wholeOf(each).lowCutsHz.length))
        least += joining(typical).low / gainHigh
    }
    if (step === nodes.length - 1) return
    const { inputNoiseLow, inputNoiseHigh, outputNoiseLow, outputNoiseHigh, ...span } = spanOf(index)
    least += (inputNoiseLow * whiteOverWeighted) / gainHigh
    most += (inputNoiseHigh * whiteOverWeighted) / gainLow
    gainLow *= span.gainLow ** 2
    gainHigh *= span.gainHigh ** 2
    least += (outputNoiseLow * whiteOverWeighted) / gainHigh
    most += (outputNoiseHigh * whiteOverWeighted) / gainLow
  })
  return { least, most }
}

/** Power of what joins at a node beside one of its feeds. */
function joiningPower(
  graph: Graph,
  { before, after }: Spans,
  index: number,
  own: number,
  sounding: Sounding,
): Span {
  const nobody: Sounding = { ...sounding, sources: sounding.sources.map(() => 0) }
  let [low, high] = [0, 0]
  for (const feed of graph.nodes[index]!.feeds) {
    if (feed === own) continue
    const span = levelSpanDb(after[feed]!, nobody)
    low += powerFromDb(span.low)
    high += powerFromDb(span.high)
  }
  sounding.sources.forEach((amplitude, source) => {
    if (amplitude === 0) return
    const all = sourceSpan(before[index]!, source)
    high += all.high ** 2
    // what comes with the feed itself as well is in its sum already, and may cancel here
    if (sourceSpan(after[own]!, source).high === 0) low += all.low ** 2
  })
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
  const differences = speaking
    .filter((level) => level >= first && level <= spoken.high)
    .map((level) => {
      const silence = Math.max(paused.low, Math.min(paused.high, level - fallDb))
      return settledAgcGainDb(agc, silence) - settledAgcGainDb(agc, level)
    })
  return agcGainAfterDb(agc, 0, Math.min(...differences), plannedPauseS)
}
