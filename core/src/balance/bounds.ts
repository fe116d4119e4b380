import {
  type Beside,
  type Graph,
  type Onset,
  peakHigh,
  peakLow,
  placeLow,
  type ReadingSpan,
  type SituationSpans,
  spanChainOf,
  type SpanOf,
  type Table,
  tableOf,
  type Way,
  waysTo,
} from '../chain'
import { outsideDb } from '../levels'
import { settledAgcGainDb } from '../dynamics'
import { amplitudeDb, powerDb, powerFromDb } from '../units'
import { type AimedRecording, type Aims, roomsOf } from './aims'
import { ReadingSpans } from './reading-spans'
import { mostFirst, type Score, worstFirst } from './objective'
import type { Positions, Region } from './positions'

/** Allowance for rounding: sums in another order differ in their last digits, and a bound must never come out too low. */
const slackDb = 1e-7

/**
 * The best that any combination of positions in a region can come to, figure by figure. Every gain, noise and ceiling
 * takes its most favourable value by itself, so that no combination inside does better in any single figure.
 */
export function boundsOn(graph: Graph, aims: Aims, positions: Positions): (region: Region) => Score {
  const table = tableOf(graph)
  const readings = new ReadingSpans(positions)
  const whole = positions.whole()
  const wholeOf: SpanOf = (node) => readings.over(node, whole)
  const chainOver = spanChainOf(graph, neededFor(graph, aims), wholeOf)
  const counted = aims.recordings
    .filter(({ counts }) => counts)
    .map((recording) => ({ recording, ways: waysTo(graph, recording.end.node, wholeOf) }))

  const roomOf = new Map<number, number>()
  const missOf = new Map<AimedRecording, number>()
  const ratioOf = new Map<AimedRecording, { all: number; boxes: number }>()

  return (region) => {
    const spans = graph.nodes.map(({ index }) => readings.over(index, region))
    const spanOf: SpanOf = (node) => spans[node]!
    const situations = chainOver(spanOf)
    const { onsets, changed } = situations
    /** A figure of a node, recomputed only where it may differ from that of the previous region. */
    const kept = <Key, Figure>(
      known: Map<Key, Figure>,
      key: Key,
      node: number,
      figure: () => Figure,
    ): Figure => {
      const found = changed[node] ? undefined : known.get(key)
      if (found !== undefined) return found
      const made = figure()
      known.set(key, made)
      return made
    }
    const rooms = roomsOf(aims, (node) =>
      kept(roomOf, node, node, () => mostRoomDb(node, onsets, spanOf, table) + slackDb),
    )
    const misses = aims.recordings.map((recording) => {
      const { end, window } = recording
      return window
        ? kept(missOf, recording, end.node, () => leastMissDb(window, end.node, onsets, table))
        : 0
    })
    const ratios = counted.map(({ recording, ways }) =>
      kept(ratioOf, recording, recording.end.node, () =>
        bestRatioDb(graph, table, recording, ways, spanOf, situations),
      ),
    )
    return {
      overDb: mostFirst(rooms.map(({ missingDb }) => missingDb)),
      outsideDb: mostFirst(misses.map((miss) => Math.max(0, miss - slackDb))),
      speechToNoiseDb: worstFirst(ratios.map(({ all }) => all + slackDb)),
      overBoxesDb: worstFirst(ratios.map(({ boxes }) => boxes + slackDb)),
      headroomDb: Math.min(...rooms.map(({ headroomDb }) => headroomDb)),
      changes: positions.leastChanges(region),
    }
  }
}

/** Nodes on the way to a recording, and everything that their automatic gain listens to. */
function neededFor(graph: Graph, { leadsToRecording }: Aims): boolean[] {
  const needed = graph.nodes.map(() => false)
  const mark = (index: number): void => {
    if (needed[index]) return
    needed[index] = true
    const { feeds, linked = [] } = graph.nodes[index]!
    for (const other of [...feeds, ...linked]) mark(other)
  }
  leadsToRecording.forEach((leads, index) => leads && mark(index))
  return needed
}

/** The most headroom that a node may leave. */
function mostRoomDb(node: number, onsets: readonly Onset[], spanOf: SpanOf, table: Table): number {
  const { inputCeilingDb, outputCeilingDb } = spanOf(node)
  const room = (ceilingDb: number, where: 'before' | 'after') =>
    ceilingDb === Infinity
      ? Infinity
      : ceilingDb -
        amplitudeDb(
          Math.max(...onsets.map(({ spans, sources }) => peakLow(spans[where][node]!, table, sources))),
        )
  return Math.min(room(inputCeilingDb, 'before'), room(outputCeilingDb, 'after'))
}

function leastMissDb(
  window: NonNullable<AimedRecording['window']>,
  node: number,
  onsets: readonly Onset[],
  table: Table,
): number {
  const mostOf = (peakOf: typeof peakLow) =>
    amplitudeDb(Math.max(...onsets.map(({ spans, sources }) => peakOf(spans.after[node]!, table, sources))))
  return outsideDb(window, Math.min(Math.max(mostOf(peakLow), window.lowestDbfs), mostOf(peakHigh)))
}

/**
 * The best ratios of a recording: of the sources that it is meant for the worst. Several ways of one source come to no
 * more than the sum of what each would be over its own noise, as amplitudes.
 */
function bestRatioDb(
  graph: Graph,
  table: Table,
  { sources }: AimedRecording,
  ways: readonly Way[],
  spanOf: SpanOf,
  situations: SituationSpans,
): { all: number; boxes: number } {
  let [all, boxes] = [Infinity, Infinity]
  for (const source of sources) {
    let [overAll, overBoxes] = [0, 0]
    for (const way of ways) {
      if (way.source !== source) continue
      const least = leastNoise(graph, table, way, spanOf, situations)
      overAll += 1 / Math.sqrt(least.boxes + least.place)
      overBoxes += 1 / Math.sqrt(least.boxes)
    }
    all = Math.min(all, overAll)
    boxes = Math.min(boxes, overBoxes)
  }
  return { all: amplitudeDb(all), boxes: amplitudeDb(boxes) }
}

/** The least noise that a way of a source collects, as power referred to the source at its typical level. */
function leastNoise(
  graph: Graph,
  table: Table,
  { source, origin, nodes, entryNoise, mostCut }: Way,
  spanOf: SpanOf,
  situations: SituationSpans,
): { boxes: number; place: number } {
  const { typical, riseDb, beside } = situations
  const pause = situations.pause[source]!
  const noise = { boxes: 0, place: 0 }
  const entryPower = table.amplitudeOfOrigin[origin]! ** 2
  let gain = entryPower
  /** Power that the noise of the entry has been lifted by in a pause. */
  let lifted = 1
  for (let step = 0; step < nodes.length; step++) {
    const index = nodes[step]!
    const node = graph.nodes[index]!
    const span = spanOf(index)
    if (node.feeds.length > 1)
      for (const feed of node.feeds)
        if (feed !== nodes[step - 1]) {
          noise.boxes += pause.after[feed]!.boxesLow / gain
          noise.place += placeLow(pause.after[feed]!) / gain
        }
    noise.boxes += span.inputNoiseLow / gain
    gain *= span.gainHigh ** 2
    if (span.follows) {
      const rise = powerFromDb(leastRiseOf(span, riseDb[source]![index]!))
      noise.boxes *= rise
      noise.place *= rise
      lifted *= rise
      gain *= powerFromDb(
        mostFollowDb(span, typical[source]!.followDb[index]!.high, powerDb(gain), beside[source]![index]),
      )
    }
    noise.boxes += span.outputNoiseLow / gain
  }
  const place = entryNoise === undefined ? 0 : table.entryNoiseLeft(entryNoise, mostCut).weighted
  noise.place += (place * lifted) / entryPower
  return noise
}

/** A stage that may rest lifts nothing there; a limiter comes up in a pause, which is taken for nothing. */
const leastRiseOf = ({ mayRest, follows }: ReadingSpan, riseDb: number): number =>
  follows?.kind !== 'agc' ? 0 : mayRest ? Math.min(0, riseDb) : riseDb

/**
 * The most that a following stage gives a source: the louder it comes itself, the less, and what sounds beside it takes
 * some more away.
 */
function mostFollowDb(
  { mayRest, follows }: ReadingSpan,
  mostDb: number,
  levelDb: number,
  beside: Beside | undefined,
): number {
  if (follows?.kind !== 'agc' || !beside) return mostDb
  const settledDb = settledAgcGainDb(follows, levelDb + beside.liftDb)
  return Math.min(mostDb, mayRest ? Math.max(0, settledDb) : settledDb)
}
