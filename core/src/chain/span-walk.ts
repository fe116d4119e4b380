import { deadFactor, type Graph, type Node } from './graph'
import { type Sounding, whiteOverWeighted } from './heard'
import { type Table, tableOf } from './table'
import { isBehindFollowers } from './steps'
import { settledAgcGainDb } from '../dynamics'
import { amplitudeFromDb, powerDb } from '../units'
import type { ReadingSpan, SpanOf } from './reading-span'
import type { Shape, Shapes } from './span-shapes'

/** A figure known only within bounds. */
export interface Span {
  low: number
  high: number
}

/** Bounds of what arrives at a place: signed amplitude of each path, and power of the boxes' noise. */
export interface Arriving {
  shape: Shape
  low: Float64Array
  high: Float64Array
  boxesLow: number
  boxesHigh: number
}

/** Bounds before and after each node, and the gain of following stages, dB. */
export interface Spans {
  before: Arriving[]
  after: Arriving[]
  followDb: Span[]
  /** What arrives at all nodes linked with this one. */
  together: Arriving[][]
}

/** Bounds of a following stage's gain, dB, from what may arrive at it and at the nodes linked with it. */
export type FollowSpan = (node: Node, span: ReadingSpan, together: readonly Arriving[], own: Arriving) => Span

const still: Span = { low: 0, high: 0 }

const arrivingFor = (shape: Shape): Arriving => ({
  shape,
  low: new Float64Array(shape.slots.length),
  high: new Float64Array(shape.slots.length),
  boxesLow: 0,
  boxesHigh: 0,
})

/**
 * Walks a chain over whole regions of positions: the same walk as for single positions, with figures that lie between
 * two. What it fills is used again for the next region, and stays as it is where nothing there reads otherwise. Nodes that
 * no following stage comes before carry the same in every situation and are walked once.
 */
export class SpanWalk {
  private readonly table: Table
  private readonly common: Spans
  private readonly stepsAhead: readonly (readonly number[])[]
  private readonly stepsBehind: readonly (readonly number[])[]
  private readonly isBehind: readonly boolean[]
  /** Each node's reading in the previous region. */
  private readonly last: ReadingSpan[] = []
  /** For each node whether it, or anything that reaches it, reads otherwise than in the region before. */
  readonly changed: boolean[]

  /**
   * @param needed nodes that matter, by index
   * @param follows nodes whose gain follows the level in some position, by index
   */
  constructor(
    private readonly graph: Graph,
    private readonly shapes: Shapes,
    needed: readonly boolean[],
    follows: readonly boolean[],
  ) {
    this.table = tableOf(graph)
    this.isBehind = isBehindFollowers(graph, (node) => follows[node]!)
    const steps = graph.steps
      .map((step) => step.filter((index) => needed[index]))
      .filter(({ length }) => length)
    this.stepsAhead = steps.filter(([index]) => !this.isBehind[index!])
    this.stepsBehind = steps.filter(([index]) => this.isBehind[index!])
    this.changed = graph.nodes.map(() => true)
    this.common = this.spans()
  }

  /** Room for one situation; nodes that are the same in every situation have theirs in common. */
  spans(): Spans {
    const spans: Spans = {
      before: [],
      after: [],
      followDb: this.graph.nodes.map(() => still),
      together: [],
    }
    for (const index of this.graph.steps.flat()) {
      const { feeds } = this.graph.nodes[index]!
      const shared = this.common && !this.isBehind[index]
      spans.after[index] = shared ? this.common.after[index]! : arrivingFor(this.shapes.after[index]!)
      spans.before[index] =
        feeds.length === 1
          ? spans.after[feeds[0]!]!
          : shared
            ? this.common.before[index]!
            : arrivingFor(this.shapes.before[index]!)
    }
    for (const step of this.graph.steps)
      for (const index of step) spans.together[index] = step.map((each) => spans.before[each]!)
    return spans
  }

  /** Walks the part that is the same in every situation, for another region. */
  walkCommon(spanOf: SpanOf): void {
    this.compare(this.stepsAhead, spanOf)
    this.compare(this.stepsBehind, spanOf)
    this.walkSteps(this.stepsAhead, this.common, () => still)
  }

  /** The rest, for one situation. */
  walk(spans: Spans, followSpan: FollowSpan): void {
    this.walkSteps(this.stepsBehind, spans, followSpan)
  }

  private compare(steps: readonly (readonly number[])[], spanOf: SpanOf): void {
    for (const step of steps) {
      let changed = false
      for (const index of step) {
        const { feeds, linked } = this.graph.nodes[index]!
        const span = spanOf(index)
        changed ||= span !== this.last[index] || feeds.some((feed) => this.changed[feed])
        // nodes linked over two steps listen to what comes later
        changed ||= linked !== undefined && step.length === 1
        this.last[index] = span
      }
      for (const index of step) this.changed[index] = changed
    }
  }

  private walkSteps(steps: readonly (readonly number[])[], spans: Spans, followSpan: FollowSpan): void {
    for (const step of steps) {
      if (!this.changed[step[0]!]) continue
      for (const index of step) this.arrive(index, spans)
      for (const index of step) {
        const node = this.graph.nodes[index]!
        const span = this.last[index]!
        const follow = span.follows
          ? restable(followSpan(node, span, spans.together[index]!, spans.before[index]!), span)
          : still
        spans.followDb[index] = follow
        this.leave(node, span, follow, spans.before[index]!, spans.after[index]!)
      }
    }
  }

  private arrive(index: number, spans: Spans): void {
    const { feeds } = this.graph.nodes[index]!
    if (feeds.length === 1) return
    const into = spans.before[index]!
    if (feeds.length > 1) return this.join(index, spans)
    into.shape.slots.forEach(({ emitter }, slot) => {
      into.low[slot] = emitter < this.table.firstEntryNoise ? this.table.amplitudeOfOrigin[emitter]! : 1
      into.high[slot] = into.low[slot]!
    })
  }

  private join(index: number, { before, after }: Spans): void {
    const target = before[index]!
    const { into, sharesBoxes } = this.shapes.joints[index]!
    target.low.fill(0)
    target.high.fill(0)
    let [boxesLow, boxesHigh] = [0, 0]
    this.graph.nodes[index]!.feeds.forEach((from, feed) => {
      const fed = after[from]!
      into[feed]!.forEach((slot, at) => {
        target.low[slot]! += fed.low[at]!
        target.high[slot]! += fed.high[at]!
      })
      boxesLow += fed.boxesLow
      // noise that comes by several ways may add up as voltages do, or cancel
      boxesHigh = sharesBoxes
        ? (Math.sqrt(boxesHigh) + Math.sqrt(fed.boxesHigh)) ** 2
        : boxesHigh + fed.boxesHigh
    })
    target.boxesLow = sharesBoxes ? 0 : boxesLow
    target.boxesHigh = boxesHigh
  }

  private leave(node: Node, span: ReadingSpan, follow: Span, before: Arriving, after: Arriving): void {
    const dead = node.stop ? deadFactor : 1
    const least = span.gainLow * (follow.low === 0 ? 1 : amplitudeFromDb(follow.low)) * dead
    const most = span.gainHigh * (follow.high === 0 ? 1 : amplitudeFromDb(follow.high)) * dead
    const turned = node.sign === -1
    const count = before.low.length
    for (let slot = 0; slot < count; slot++) {
      const [a, b] = [before.low[slot]!, before.high[slot]!]
      const down = a >= 0 ? a * least : a * most
      const up = b >= 0 ? b * most : b * least
      after.low[slot] = turned ? -up : down
      after.high[slot] = turned ? -down : up
    }
    after.boxesLow = (before.boxesLow + span.inputNoiseLow) * least * least + span.outputNoiseLow
    after.boxesHigh = (before.boxesHigh + span.inputNoiseHigh) * most * most + span.outputNoiseHigh
  }
}

/** A stage that may also rest in some position adds nothing there. */
const restable = ({ low, high }: Span, { mayRest }: ReadingSpan): Span =>
  mayRest ? { low: Math.min(0, low), high: Math.max(0, high) } : { low, high }

const leastSize = (low: number, high: number): number => (low > 0 ? low : high < 0 ? -high : 0)
const mostSize = (low: number, high: number): number => Math.max(Math.abs(low), Math.abs(high))

/** Sum of the ways of a group of slots, which arrive at one time. */
function groupLow({ low, high }: Arriving, group: readonly number[]): number {
  if (group.length === 1) return leastSize(low[group[0]!]!, high[group[0]!]!)
  let [a, b] = [0, 0]
  for (const slot of group) {
    a += low[slot]!
    b += high[slot]!
  }
  return leastSize(a, b)
}

function groupHigh({ low, high }: Arriving, group: readonly number[]): number {
  if (group.length === 1) return mostSize(low[group[0]!]!, high[group[0]!]!)
  let [a, b] = [0, 0]
  for (const slot of group) {
    a += low[slot]!
    b += high[slot]!
  }
  return mostSize(a, b)
}

/** RMS amplitude of a source at its typical level. Ways that are apart in time may nearly cancel or add up. */
export function sourceSpan(arriving: Arriving, source: number): Span {
  const groups = arriving.shape.sources[source]!
  if (groups.length === 0) return still
  if (groups.length === 1)
    return { low: groupLow(arriving, groups[0]!), high: groupHigh(arriving, groups[0]!) }
  const lows = groups.map((group) => groupLow(arriving, group))
  const highs = groups.map((group) => groupHigh(arriving, group))
  const high = highs.reduce((sum, each) => sum + each, 0)
  const most = lows.indexOf(Math.max(...lows))
  return { low: Math.max(0, lows[most]! - (high - highs[most]!)), high }
}

/** Least power of the place under the A curve. */
export function placeLow({ shape, low, high }: Arriving): number {
  let sum = 0
  for (const { slot, weightedLow } of shape.places)
    sum += leastSize(low[slot]!, high[slot]!) ** 2 * weightedLow
  return sum
}

/** The least that the largest peak can be of sources at some amplitudes over their typical level and the place at its loudest. */
export const peakLow = (arriving: Arriving, table: Table, sources: readonly number[]): number =>
  peakOf(arriving, table, sources, 'peakLow', leastSize, groupLow)

/** The most that it can be. */
export const peakHigh = (arriving: Arriving, table: Table, sources: readonly number[]): number =>
  peakOf(arriving, table, sources, 'peakHigh', mostSize, groupHigh)

function peakOf(
  arriving: Arriving,
  table: Table,
  sources: readonly number[],
  placePeak: 'peakLow' | 'peakHigh',
  sizeOf: (low: number, high: number) => number,
  ofGroup: (arriving: Arriving, group: readonly number[]) => number,
): number {
  const { shape, low, high } = arriving
  let square = 0
  for (const place of shape.places)
    square += sizeOf(low[place.slot]!, high[place.slot]!) ** 2 * place[placePeak]
  let sum = Math.sqrt(square)
  for (let source = 0; source < sources.length; source++) {
    if (sources[source] === 0) continue
    const factor = sources[source]! * table.sources[source]!.crest
    for (const group of shape.sources[source]!) sum += ofGroup(arriving, group) * factor
  }
  return sum
}

/** Level of all that sounds, as automatic gain hears it, dB. */
export function levelSpanDb(arriving: Arriving, { sources, placeAtLoudest }: Sounding): Span {
  const { shape, low, high } = arriving
  let least = arriving.boxesLow * whiteOverWeighted
  let most = arriving.boxesHigh * whiteOverWeighted
  for (const { slot, plainLow, plainHigh, plainLoudestHigh } of shape.places) {
    least += leastSize(low[slot]!, high[slot]!) ** 2 * plainLow
    most += mostSize(low[slot]!, high[slot]!) ** 2 * (placeAtLoudest ? plainLoudestHigh : plainHigh)
  }
  for (let source = 0; source < sources.length; source++) {
    if (sources[source] === 0) continue
    const span = sourceSpan(arriving, source)
    least += (span.low * sources[source]!) ** 2
    most += (span.high * sources[source]!) ** 2
  }
  return { low: powerDb(Math.max(1e-24, least)), high: powerDb(Math.max(1e-24, most)) }
}

/** The loudest of several decides: the least that it can be, and the most. */
export function loudestOf<Each>(all: readonly Each[], spanOf: (each: Each) => Span): Span {
  const loudest = { low: -Infinity, high: -Infinity }
  for (const each of all) {
    const { low, high } = spanOf(each)
    if (low > loudest.low) loudest.low = low
    if (high > loudest.high) loudest.high = high
  }
  return loudest
}

/** Bounds of automatic gain between two levels: the louder the level, the less gain. */
export const agcSpanDb = (agc: Parameters<typeof settledAgcGainDb>[0], { low, high }: Span): Span => ({
  low: settledAgcGainDb(agc, high),
  high: settledAgcGainDb(agc, low),
})
