import {
  agcGainAfterDb,
  agcGainAtPeakDb,
  limiterGainAtPeakDb,
  settledAgcGainDb,
  settledLimiterGainDb,
} from '../dynamics'
import { amplitudeDb } from '../units'
import { type Graph, hasPauses, riseMsOf, voiceRiseMs } from './graph'
import {
  carries,
  comingBackAt,
  isDucked,
  loudMoments,
  placePeak,
  sourcePower,
  type Sounding,
  soundingPeak,
  speaking,
} from './heard'
import type { Mixture } from './mixture'
import type { Reading } from './reading'
import { type Table, tableOf } from './table'
import { type Known, type Met, type Situation, stepsBehindFollowers, walk, type Walked } from './walk'

/** Length of the pause that the plan assumes before the loudest words, s: automatic gain rises during it. */
export const plannedPauseS = 3

/** A chain with its controls set, in every situation that the plan reckons with. */
export interface Chain {
  graph: Graph
  readings: readonly Reading[]
  table: Table
  /** For each source: it speaks at its typical level, and nobody else does. */
  typical: readonly Walked[]
  /** For each source: it has paused for a while, if it has pauses. Sources that never pause go on. */
  pause: readonly Walked[]
  /** For each source and node: the gain that automatic gain would open to in the end, dB. */
  pauseAskedDb: readonly Float64Array[]
  /** Everything at its loudest at once, out of a pause. */
  onset: Walked
  /** The largest peak before and after a node, as the amplitude of a sine. */
  peakBefore: (node: number) => number
  peakAfter: (node: number) => number
  /** The chain with one source at its quietest or loudest, for drawing. */
  at: (source: number, moment: 'quietest' | 'loudest') => Walked
}

/**
 * Works a chain out for one setting of its controls. Without a stage that follows the level one walk stands for every
 * situation. Automatic gain settles on what sounds; in a pause it opens towards what the place and the boxes alone ask
 * for, and the first word after it meets the gain that it opened to.
 */
export function chainOf(
  graph: Graph,
  readings: readonly Reading[],
  sourceShiftsDb?: readonly number[],
): Chain {
  const table = tableOf(graph)
  const { sources } = table
  let known: Known | undefined
  const walkIn = (situation: Situation) => {
    const walked = walk(graph, readings, situation, sourceShiftsDb, known)
    known ??= { walked, stepsBehind: stepsBehindFollowers(graph, readings) }
    return walked
  }
  const settled = (sounding: Sounding): Situation => ({
    ...sounding,
    follow: (met) => settledGainDb(met, sounding, table),
  })
  const base = { graph, readings, table }

  const hasDuck = readings.some(({ follows }) => follows?.kind === 'duck')
  const moments = loudMoments(table, hasDuck)
  if (!readings.some(({ follows }) => follows)) {
    const only = walkIn({ ...speaking(table, -1, 0), follow: () => 0 })
    const same = sources.map(() => only)
    return {
      ...base,
      typical: same,
      pause: same,
      pauseAskedDb: same.map(({ followDb }) => followDb),
      onset: only,
      ...peaksOf([only], moments, table),
      at: () => only,
    }
  }

  const typical = sources.map((_, source) => walkIn(settled(speaking(table, source, 1))))
  const pauseAskedDb = typical.map(({ followDb }) => followDb.slice())
  const pause = sources.map((each, source) =>
    hasPauses(each.source)
      ? walkIn(paused(speaking(table, source, 0), typical[source]!, table, pauseAskedDb[source]!))
      : typical[source]!,
  )
  const loud = moments.map((sounding) =>
    walkIn({ ...sounding, follow: (met) => onsetGainDb(met, sounding, pause, table) }),
  )
  return {
    ...base,
    typical,
    pause,
    pauseAskedDb,
    onset: loud[0]!,
    ...peaksOf(loud, moments, table),
    at: (source, moment) => walkIn(settled(speaking(table, source, sources[source]![moment]))),
  }
}

/** The largest peaks of several loud moments, worked out where they are asked for. */
function peaksOf(
  loud: readonly Walked[],
  moments: readonly Sounding[],
  table: Table,
): Pick<Chain, 'peakBefore' | 'peakAfter'> {
  const peaks = loud.map((walked, moment) => {
    const known = new Map<Mixture, number>()
    return (where: 'before' | 'after', node: number): number => {
      const mixture = walked[where][node]!
      const peak = known.get(mixture) ?? soundingPeak(mixture, table, moments[moment]!)
      known.set(mixture, peak)
      return peak
    }
  })
  const largest = (where: 'before' | 'after') => (node: number) =>
    peaks.reduce((most, peakAt) => Math.max(most, peakAt(where, node)), 0)
  return { peakBefore: largest('before'), peakAfter: largest('after') }
}

/**
 * Gain of a following stage once it has settled on what sounds. A limiter lets go between the rare peaks of a voice, for
 * which a tone of the RMS stands, and is held down by those of steady noise, which come all the time.
 */
function settledGainDb({ stage, levelDb, mixture }: Met, sounding: Sounding, table: Table): number {
  switch (stage.kind) {
    case 'agc':
      return settledAgcGainDb(stage, levelDb)
    case 'limiter': {
      const { sources, placeAtLoudest } = sounding
      const tones = sources.reduce(
        (sum, amplitude, source) => sum + amplitude ** 2 * sourcePower(mixture, table, source),
        0,
      )
      const peak = Math.sqrt(tones) + usualShare * placePeak(mixture, table, placeAtLoudest)
      return settledLimiterGainDb(stage, amplitudeDb(Math.max(1e-12, peak)))
    }
    case 'duck':
      return isDucked(sounding, table, (source) => carries(mixture, table, source)) ? -stage.depthDb : 0
  }
}

/** Share of the rise time left to a limiter that follows every crest: a wave rises faster than its envelope. From rendering. */
const waveShare = 0.5

/** Peak of steady noise that holds a limiter down, as a share of its rarest peak. From rendering. */
const usualShare = 0.7

/** A pause: automatic gain has opened for a while from where the voice held it. */
const paused = (silence: Sounding, spoken: Walked, table: Table, askedDb: Float64Array): Situation => ({
  ...silence,
  follow: (met) => {
    const to = settledGainDb(met, silence, table)
    const { stage, node } = met
    askedDb[node.index] = to
    return stage.kind === 'agc' ? agcGainAfterDb(stage, spoken.followDb[node.index]!, to, plannedPauseS) : to
  },
})

/** The first loud moment after a pause: following stages come down during its rise, as far as there is time. */
function onsetGainDb(met: Met, sounding: Sounding, pause: readonly Walked[], table: Table): number {
  const { stage, node } = met
  if (stage.kind === 'duck') return settledGainDb(met, sounding, table)
  const passes = (source: number) => carries(met.mixture, table, source)
  const riseMs = Math.min(
    voiceRiseMs,
    ...table.sources.flatMap(({ source }, index) => (passes(index) ? [riseMsOf(source)] : [])),
  )
  // peaks that only meet there do so in the last of the rise
  if (stage.kind === 'limiter')
    return limiterGainAtPeakDb(stage, 0, met.peakDb, riseMs * waveShare * met.peakShare)
  // sources that pass here have spoken and paused
  const heard = comingBackAt(table, passes)
  if (heard.length === 0) return settledGainDb(met, sounding, table)
  const opened = Math.max(...heard.map((source) => pause[source]!.followDb[node.index]!))
  return agcGainAtPeakDb(stage, opened, met.peakPowerDb, riseMs)
}
