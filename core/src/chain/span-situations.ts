import { agcGainAfterDb, agcGainAtPeakDb, settledLimiterGainDb } from '../dynamics'
import { amplitudeDb } from '../units'
import { type Graph, hasPauses, voiceRiseMs } from './graph'
import { comingBackAt, isDucked, loudMoments, type Sounding, speaking } from './heard'
import type { FollowingStage } from './reading'
import type { SpanOf } from './reading-span'
import { type Beside, besideOn, leastRiseDb } from './span-rises'
import { shapesOf } from './span-shapes'
import {
  agcSpanDb,
  type Arriving,
  type FollowSpan,
  levelSpanDb,
  loudestOf,
  peakHigh,
  peakLow,
  type Span,
  type Spans,
  SpanWalk,
} from './span-walk'
import { plannedPauseS } from './states'
import { type Table, tableOf } from './table'

/** A chain over a region of positions, in every situation that the plan reckons with. */
export interface SituationSpans {
  /** For each source: it speaks, and it has paused. */
  typical: readonly Spans[]
  pause: readonly Spans[]
  /** For each source and node the least that automatic gain opens by in the pause, dB. */
  riseDb: readonly Float64Array[]
  /** For each source and node with automatic gain, bounds on everything else that sounds there. */
  beside: readonly (Beside | undefined)[][]
  /** Everything at its loudest after a pause; with a duck in the chain, also the sources that never pause alone. */
  onsets: readonly Onset[]
  /** For each node whether anything of this may differ from the region before. */
  changed: readonly boolean[]
}

/** A loudest moment: each source's amplitude over its typical level. */
export interface Onset {
  sources: readonly number[]
  spans: Spans
}

const still: Span = { low: 0, high: 0 }

/**
 * Lays a chain out for walks over regions of positions: the same situations as for single positions, each gain between
 * two figures. What the function it returns gives is filled again for the next region.
 *
 * @param needed nodes that matter, by index
 * @param wholeOf every node over all positions
 */
export function spanChainOf(
  graph: Graph,
  needed: readonly boolean[],
  wholeOf: SpanOf,
): (spanOf: SpanOf) => SituationSpans {
  const table = tableOf(graph)
  const kinds = graph.nodes.map(({ index }) => (needed[index] ? wholeOf(index).follows?.kind : undefined))
  const walk = new SpanWalk(
    graph,
    shapesOf(graph, wholeOf),
    needed,
    kinds.map((kind) => kind !== undefined),
  )
  const besideAt = besideOn(graph, wholeOf)
  const situations = situationsOn(walk, graph, kinds)
  const { typical, pause, riseDb, beside, onsets } = situations
  return (spanOf) => {
    walk.walkCommon(spanOf)
    if (kinds.every((kind) => kind === undefined)) return situations
    typical.forEach((spans, source) => {
      walk.walk(spans, settledSpan(speaking(table, source, 1), table))
      if (pause[source] === spans) return
      walk.changed.forEach((changed, node) => {
        if (!changed) return
        riseDb[source]![node] = 0
        beside[source]![node] = undefined
      })
      walk.walk(
        pause[source]!,
        pausedSpan(source, table, situations, (node) => {
          const found = besideAt(source, node, spanOf, spans, pause[source]!)
          beside[source]![node] = found
          return found?.fallDb ?? -Infinity
        }),
      )
    })
    for (const { sources, spans } of onsets) walk.walk(spans, onsetSpan(table, pause, sources))
    return situations
  }
}

/** Storage for every situation; a single one where nothing follows the level. */
function situationsOn(
  walk: SpanWalk,
  graph: Graph,
  kinds: readonly (FollowingStage['kind'] | undefined)[],
): SituationSpans {
  const table = tableOf(graph)
  const follows = kinds.some((kind) => kind !== undefined)
  const only = walk.spans()
  const room = () => (follows ? walk.spans() : only)
  const typical = table.sources.map(room)
  return {
    typical,
    pause: table.sources.map(({ source }, index) => (hasPauses(source) ? room() : typical[index]!)),
    riseDb: table.sources.map(() => new Float64Array(graph.nodes.length)),
    beside: table.sources.map(() => new Array<Beside | undefined>(graph.nodes.length).fill(undefined)),
    onsets: loudMoments(table, kinds.includes('duck')).map(({ sources }) => ({ sources, spans: room() })),
    changed: walk.changed,
  }
}

const levelOfAll = (arriving: readonly Arriving[], sounding: Sounding): Span =>
  loudestOf(arriving, (each) => levelSpanDb(each, sounding))

function settledSpan(sounding: Sounding, table: Table): FollowSpan {
  return (_, { follows }, arriving, own) => {
    switch (follows?.kind) {
      case 'agc':
        return agcSpanDb(follows, levelOfAll(arriving, sounding))
      case 'limiter':
        return limiterSpan(follows, own, table)
      case 'duck': {
        const passes = (source: number) => own.shape.sources[source]!.length > 0
        const gainDb = isDucked(sounding, table, passes) ? -follows.depthDb : 0
        return { low: gainDb, high: gainDb }
      }
      default:
        return still
    }
  }
}

/** A limiter on anything between silence and the loudest peak. */
const limiterSpan = (
  limiter: Parameters<typeof settledLimiterGainDb>[0],
  arriving: Arriving,
  table: Table,
): Span => ({
  low: settledLimiterGainDb(
    limiter,
    Math.max(
      -240,
      amplitudeDb(
        peakHigh(
          arriving,
          table,
          table.sources.map(({ loudest }) => loudest),
        ),
      ),
    ),
  ),
  high: 0,
})

function pausedSpan(
  source: number,
  table: Table,
  { typical, riseDb }: SituationSpans,
  fallAt: (node: number) => number,
): FollowSpan {
  const [voice, silence] = [speaking(table, source, 1), speaking(table, source, 0)]
  const spoken = typical[source]!
  const settled = settledSpan(silence, table)
  return (node, span, arriving, own) => {
    const asked = settled(node, span, arriving, own)
    const { follows } = span
    if (follows?.kind !== 'agc') return asked
    riseDb[source]![node.index] = leastRiseDb(
      follows,
      levelOfAll(spoken.together[node.index]!, voice),
      levelOfAll(arriving, silence),
      fallAt(node.index),
    )
    const from = spoken.followDb[node.index]!
    return {
      // the gain reached lies between the old gain and the one asked for; a louder pause brings it down at once
      low: asked.low >= from.low ? agcGainAfterDb(follows, from.low, asked.low, plannedPauseS) : asked.low,
      high: Math.max(from.high, asked.high),
    }
  }
}

function onsetSpan(table: Table, pause: readonly Spans[], sources: readonly number[]): FollowSpan {
  const settled = settledSpan({ sources, placeAtLoudest: true }, table)
  return (node, span, arriving, own) => {
    const { follows } = span
    const to = settled(node, span, arriving, own)
    if (follows?.kind !== 'agc') return to
    const heard = comingBackAt(table, (source) => own.shape.sources[source]!.length > 0)
    if (heard.length === 0) return to
    const opened = loudestOf(heard, (source) => pause[source]!.followDb[node.index]!)
    // it comes down while the loud moment swells: by the least where what passes is softest, and what turns with it not
    const others = arriving.filter((each) => each !== own)
    const peak = Math.max(
      peakLow(own, table, sources),
      ...others.map((each) => peakHigh(each, table, sources)),
    )
    return {
      low: agcGainAtPeakDb(follows, opened.low, Math.max(-240, amplitudeDb(peak)), voiceRiseMs),
      high: opened.high,
    }
  }
}
