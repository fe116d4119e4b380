import { type Graph, type ReadingSpan, type Table, tableOf, waysOfSource } from '../chain'
import { amplitudeDb } from '../units'
import { ReadingSpans } from './reading-spans'
import type { Demands, Problem } from './problem'
import { type Choice, forEachIn, type Positions, type Region } from './positions'

/** Limits on the sum of gains along a path, dB re the loudest peak at its entry. */
interface Limit {
  /** Gain that each knob brings at each of its stops. */
  knobs: { index: number; gains: Float64Array }[]
  /** The part that is not moved, or known only within bounds. */
  restLow: number
  restHigh: number
  least: number
  most: number
}

/** Demands are stated in tenths of a dB: one missed by no more than half a tenth counts as met. */
const slackDb = 0.06

type Searched = Pick<Problem, 'graph' | 'aims' | 'positions'>

/**
 * Takes from a region the stops at its edges that break a demand whatever the other knobs do: gains add along a
 * way, so what a ceiling or a window leaves to one knob follows from the least and the most that the others can
 * bring. Loops until nothing more can be removed.
 *
 * @returns the smaller region, or undefined when nothing in it meets the demands
 */
export function narrowing(problem: Searched, demands: Demands): (region: Region) => Region | undefined {
  const limits = limitsOf(problem, demands)
  return (region) => {
    const narrowed = { low: region.low.slice(), high: region.high.slice() }
    for (let moved = true; moved;) {
      moved = false
      for (const limit of limits) {
        const outcome = keepTo(limit, narrowed)
        if (outcome === 'impossible') return undefined
        moved ||= outcome === 'smaller'
      }
    }
    return narrowed
  }
}

/** Positions that may still meet every demand; undefined if there are none. */
export const keptRegion = (problem: Searched): Region | undefined =>
  narrowing(problem, { mostOverDb: 0, mostOutsideDb: 0, goal: 'everything' })(problem.positions.whole())

/** Shrinks a region to one limit. */
function keepTo(
  { knobs, restLow, restHigh, least, most }: Limit,
  { low, high }: Region,
): 'impossible' | 'smaller' | 'kept' {
  let [sumLow, sumHigh] = [restLow, restHigh]
  for (const { index, gains } of knobs) {
    sumLow += lowest(gains, low[index]!, high[index]!)
    sumHigh += highest(gains, low[index]!, high[index]!)
  }
  if (sumLow > most || sumHigh < least) return 'impossible'
  let smaller = false
  for (const { index, gains } of knobs) {
    const othersLow = sumLow - lowest(gains, low[index]!, high[index]!)
    const othersHigh = sumHigh - highest(gains, low[index]!, high[index]!)
    const breaks = (position: number) =>
      gains[position]! + othersLow > most || gains[position]! + othersHigh < least
    const [before, after] = [low[index]!, high[index]!]
    while (low[index]! <= high[index]! && breaks(low[index]!)) low[index]!++
    while (high[index]! > low[index]! && breaks(high[index]!)) high[index]!--
    if (low[index]! > high[index]!) return 'impossible'
    if (low[index] === before && high[index] === after) continue
    smaller = true
    sumLow = othersLow + lowest(gains, low[index]!, high[index]!)
    sumHigh = othersHigh + highest(gains, low[index]!, high[index]!)
  }
  return smaller ? 'smaller' : 'kept'
}

function lowest(gains: Float64Array, from: number, to: number): number {
  let found = Infinity
  for (let position = from; position <= to; position++) if (gains[position]! < found) found = gains[position]!
  return found
}

function highest(gains: Float64Array, from: number, to: number): number {
  let found = -Infinity
  for (let position = from; position <= to; position++) if (gains[position]! > found) found = gains[position]!
  return found
}

/** Every limit that ceilings and windows put on the gains along a way from an entry. */
function limitsOf({ graph, aims, positions }: Searched, demands: Demands): Limit[] {
  const table = tableOf(graph)
  const readings = gainsOfNodes(positions, graph)
  const nextOf = graph.nodes.map(({ index }) =>
    graph.nodes.filter((node) => aims.leadsToRecording[node.index] && node.feeds.includes(index)),
  )
  const found: Limit[] = []
  const keep = (limit: Limit) => {
    if (limit.least > -Infinity || limit.most < Infinity) found.push(limit)
  }
  for (const entry of new Set(graph.origins.map(({ node }) => node))) {
    if (nextOf[entry]!.length === 0) continue
    const peak = entryPeakDb(graph, table, entry)
    const walk = (index: number, so: Limit): void => {
      const { limit, stays } = through(
        readings[index]!,
        aims.ceilingsFor[index]!.length > 0,
        so,
        peak.least,
        aims.marginDb - demands.mostOverDb,
        keep,
      )
      for (const { end, window } of aims.recordings) {
        if (end.node !== index || !window) continue
        keep({
          ...limit,
          // the peak of a mix is higher than that of any of its paths
          least: isMix(graph, index)
            ? -Infinity
            : window.lowestDbfs - demands.mostOutsideDb - peak.most - slackDb,
          most: Math.min(limit.most, window.highestDbfs + demands.mostOutsideDb - peak.least + slackDb),
        })
      }
      if (nextOf[index]!.length === 0 || !stays) keep(limit)
      // paths of one source that meet may cancel, so limits behind them do not hold for one of them
      for (const next of nextOf[index]!)
        if (!meetsItself(graph, next.index)) walk(next.index, limit)
        else keep(limit)
    }
    walk(entry, { knobs: [], restLow: 0, restHigh: 0, least: -Infinity, most: Infinity })
  }
  return found
}

/** The limit behind a node: its gain on top, its ceilings kept. */
function through(
  { knob, low, high, inputCeilingDb, outputCeilingDb }: GainsOfNode,
  keepsCeilings: boolean,
  so: Limit,
  peakDb: number,
  leastHeadroomDb: number,
  keep: (limit: Limit) => void,
): { limit: Limit; stays: boolean } {
  const room = (ceilingDb: number) =>
    keepsCeilings && leastHeadroomDb > -Infinity ? ceilingDb - leastHeadroomDb - peakDb + slackDb : Infinity
  const before: Limit = { ...so, most: Math.min(so.most, room(inputCeilingDb)) }
  if (knob) {
    keep(before)
    const known = before.knobs.find(({ index }) => index === knob.index)
    const gains = known ? known.gains.map((gain, at) => gain + knob.gains[at]!) : knob.gains
    return {
      stays: true,
      limit: {
        ...before,
        knobs: [...before.knobs.filter((each) => each !== known), { index: knob.index, gains }],
        most: room(outputCeilingDb),
      },
    }
  }
  // a limit before a known gain is also one behind it
  const carried = low === high ? before.most + low : Infinity
  if (low !== high) keep(before)
  return {
    stays: true,
    limit: {
      ...before,
      restLow: before.restLow + low,
      restHigh: before.restHigh + high,
      most: Math.min(carried, room(outputCeilingDb)),
    },
  }
}

const isMix = (graph: Graph, index: number): boolean => {
  const { feeds } = graph.nodes[index]!
  return feeds.length > 1 || feeds.some((feed) => isMix(graph, feed))
}

/** Whether several feeds of a node come from one entry, or carry one source. */
function meetsItself(graph: Graph, index: number): boolean {
  const { feeds } = graph.nodes[index]!
  if (feeds.length < 2) return false
  const entriesOf = (node: number): number[] => {
    const { feeds: behind } = graph.nodes[node]!
    return behind.length ? behind.flatMap(entriesOf) : [node]
  }
  const seen = new Set<string>()
  return feeds.some((feed) => {
    const own = new Set(
      entriesOf(feed).flatMap((entry) => [
        `entry ${entry}`,
        ...graph.origins.filter(({ node }) => node === entry).map(({ source }) => source.id),
      ]),
    )
    const twice = [...own].some((each) => seen.has(each))
    own.forEach((each) => seen.add(each))
    return twice
  })
}

/** Loudest peak at an entry, dB: at least that of its sources, at most with the place unfiltered. */
function entryPeakDb(graph: Graph, table: Table, entry: number): { least: number; most: number } {
  const mixture = {
    emitters: graph.origins.flatMap(({ node }, index) => (node === entry ? [index] : [])),
    amplitudes: graph.origins.flatMap(({ node }, index) =>
      node === entry ? [table.amplitudeOfOrigin[index]!] : [],
    ),
    delaysS: graph.origins.flatMap(({ node, delayS }) => (node === entry ? [delayS] : [])),
    filters: [],
  }
  const sources = table.sources.reduce(
    (sum, { loudest, crest }, source) =>
      sum +
      waysOfSource(mixture, table, source).amplitudes.reduce((all, each) => all + each, 0) * loudest * crest,
    0,
  )
  const noise = graph.entryNoises.findIndex(({ node }) => node === entry)
  const place = noise < 0 ? 0 : table.entryNoiseLeft(noise, 0).loudestPeak
  return { least: amplitudeDb(sources), most: amplitudeDb(sources + place) }
}

/** A node's gain for each position of its one knob, or as bounds. */
interface GainsOfNode {
  knob?: { index: number; gains: Float64Array }
  low: number
  high: number
  inputCeilingDb: number
  outputCeilingDb: number
}

function gainsOfNodes(positions: Positions, graph: Graph): GainsOfNode[] {
  const spans = new ReadingSpans(positions)
  const whole = positions.whole()
  return graph.nodes.map(({ index, stop }): GainsOfNode => {
    const own = positions.own[index]!
    const span = spans.over(index, whole)
    if (stop) return { low: -Infinity, high: Infinity, inputCeilingDb: Infinity, outputCeilingDb: Infinity }
    const follow = followLimits(span)
    const ceilings = {
      inputCeilingDb: span.inputCeilingDb,
      outputCeilingDb: span.outputCeilingDb,
    }
    if (own.length === 1 && !span.follows) {
      const knob = own[0]!
      const gains = new Float64Array(positions.knobs[knob]!.stops.length)
      forEachIn(whole, [knob], positions.now, (choice: Choice) => {
        gains[choice[knob]!] = positions.reading(index, choice).gainDb
      })
      return { knob: { index: knob, gains }, low: 0, high: 0, ...ceilings }
    }
    return {
      low: span.gainLowDb + follow.low,
      high: span.gainHighDb + follow.high,
      ...ceilings,
    }
  })
}

/** Stages that follow the level are known only within their limits. */
function followLimits({ follows }: ReadingSpan): { low: number; high: number } {
  switch (follows?.kind) {
    case 'agc':
      return { low: Math.min(0, follows.minimumGainDb), high: Math.max(0, follows.maximumGainDb) }
    case 'duck':
      return { low: -follows.depthDb, high: 0 }
    case 'limiter':
      return { low: -Infinity, high: 0 }
    default:
      return { low: 0, high: 0 }
  }
}
