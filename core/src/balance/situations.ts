import {
  comingBack,
  type FollowingStage,
  hasPauses,
  neverPauses,
  plannedPauseS,
  type Table,
  voiceRiseMs,
} from '../chain'
import { agcGainAfterDb, agcGainAtPeakDb, settledLimiterGainDb } from '../dynamics'
import { amplitudeDb } from '../units'
import type { Favourable } from './favourable'
import { type Beside, type BesideAt, leastRiseDb } from './rises'
import {
  agcSpanDb,
  type Arriving,
  type FollowSpan,
  levelSpanDb,
  loudestOf,
  type MaySound,
  peakHigh,
  peakLow,
  type Span,
  type Spans,
  type SpanWalk,
} from './spans'

/** A chain over a region of positions, in every situation that the plan reckons with. */
export interface SituationSpans {
  /** For each source: it speaks, and it has paused. */
  typical: readonly Spans[]
  pause: readonly Spans[]
  /** For each source and node the least that automatic gain opens by in the pause, dB. */
  riseDb: readonly Float64Array[]
  /** For each source and node with automatic gain what is known of what sounds beside it. */
  beside: readonly (Beside | undefined)[][]
  /** Everything at its loudest out of a pause; where a duck is in the chain, also what never pauses by itself. */
  onsets: readonly Onset[]
}

/** What is at its loudest at once: for each source its amplitude over its typical level. */
export interface Onset {
  sources: readonly number[]
  spans: Spans
}

const still: Span = { low: 0, high: 0 }

/**
 * The same situations as for single positions, each gain between two figures. What it returns is filled anew for the next
 * region.
 */
export function situationsOn(
  walk: SpanWalk,
  table: Table,
  nodeCount: number,
  kinds: ReadonlySet<FollowingStage['kind']>,
  besideAt: BesideAt,
): (favourableOf: (node: number) => Favourable) => SituationSpans {
  const everything = table.sources.map(({ loudest }) => loudest)
  // a duck is up while nobody speaks: what it ducks is then louder than under a voice
  const alone = table.sources.map(({ source, loudest }) => (neverPauses(source) ? loudest : 0))
  const first = walk.spans()
  const inEach = (make: (source: number) => Spans) =>
    table.sources.map((_, source) => (kinds.size === 0 ? first : make(source)))
  const typical = inEach(() => walk.spans())
  const situations: SituationSpans = {
    typical,
    pause: inEach((source) => (hasPauses(table.sources[source]!.source) ? walk.spans() : typical[source]!)),
    riseDb: table.sources.map(() => new Float64Array(nodeCount)),
    beside: table.sources.map(() => new Array<Beside | undefined>(nodeCount).fill(undefined)),
    onsets: [everything, ...(kinds.has('duck') ? [alone] : [])].map((sources) => ({
      sources,
      spans: kinds.size === 0 ? first : walk.spans(),
    })),
  }
  const { pause, riseDb, beside, onsets } = situations
  return (favourableOf) => {
    walk.walkCommon(favourableOf)
    if (kinds.size === 0) return situations
    typical.forEach((spans, source) => {
      walk.walk(spans, favourableOf, settledSpan(speaking(table, source, 1), table))
      if (pause[source] === spans) return
      riseDb[source]!.fill(0)
      beside[source]!.fill(undefined)
      walk.walk(
        pause[source]!,
        favourableOf,
        pausedSpan(source, table, situations, (node) => {
          const found = besideAt(source, node, favourableOf, spans, pause[source]!)
          beside[source]![node] = found
          return found?.fallDb ?? -Infinity
        }),
      )
    })
    for (const { sources, spans } of onsets) walk.walk(spans, favourableOf, onsetSpan(table, pause, sources))
    return situations
  }
}

/** One source at an amplitude over its typical level, what never pauses beside it. */
const speaking = (table: Table, source: number, amplitude: number): MaySound => ({
  sources: table.sources.map((each, index) =>
    index === source ? amplitude : neverPauses(each.source) ? 1 : 0,
  ),
  placeAtLoudest: false,
})

const levelOfAll = (arriving: readonly Arriving[], sounding: MaySound): Span =>
  loudestOf(arriving.map((each) => levelSpanDb(each, sounding)))

/** A duck is down where somebody speaks whose voice does not pass it. */
const duckDb = (depthDb: number, { shape }: Arriving, { sources }: MaySound, table: Table): number =>
  table.sources.some(
    ({ source }, index) =>
      sources[index]! > 0 && source.kind === 'speech' && shape.sources[index]!.length === 0,
  )
    ? -depthDb
    : 0

function settledSpan(sounding: MaySound, table: Table): FollowSpan {
  return (_, { follows }, arriving, own) => {
    switch (follows?.kind) {
      case 'agc':
        return agcSpanDb(follows, levelOfAll(arriving, sounding))
      case 'limiter':
        return limiterSpan(follows, own, table)
      case 'duck': {
        const gainDb = duckDb(follows.depthDb, own, sounding, table)
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
  return (node, favourable, arriving, own) => {
    const asked = settled(node, favourable, arriving, own)
    const { follows } = favourable
    if (follows?.kind !== 'agc') return asked
    const members = arriving.length > 1 ? [node.index, ...(node.linked ?? [])] : [node.index]
    const before = members.map((member) => spoken.before[member]!)
    riseDb[source]![node.index] = leastRiseDb(
      follows,
      levelOfAll(before, voice),
      levelOfAll(arriving, silence),
      fallAt(node.index),
    )
    const from = spoken.followDb[node.index]!
    return {
      // what is opened to lies between what was and what is asked for; a louder pause takes the gain down at once
      low: asked.low >= from.low ? agcGainAfterDb(follows, from.low, asked.low, plannedPauseS) : asked.low,
      high: Math.max(from.high, asked.high),
    }
  }
}

function onsetSpan(table: Table, pause: readonly Spans[], sources: readonly number[]): FollowSpan {
  const settled = settledSpan({ sources, placeAtLoudest: true }, table)
  return (node, favourable, arriving, own) => {
    const { follows } = favourable
    const to = settled(node, favourable, arriving, own)
    if (follows?.kind !== 'agc') return to
    const passing = table.sources.flatMap(({ source }, index) =>
      own.shape.sources[index]!.length ? [source] : [],
    )
    if (passing.length === 0) return to
    const back = comingBack(passing)
    const heard = (back.length ? back : passing).map((source) =>
      table.sources.findIndex((each) => each.source === source),
    )
    const opened = loudestOf(heard.map((source) => pause[source]!.followDb[node.index]!))
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
