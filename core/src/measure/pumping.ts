import type { TimeRange } from '../model'
import { coarser, quantile } from './level-series'

export interface Pumping {
  /** By how much noise comes up in a pause, dB. */
  risesDb: number
  /** Time constant of its coming up, s. */
  releaseS: number
  ranges: TimeRange[]
  confidence: number
}

/** Fine steps in a coarse one. */
const together = 5
/** How far a pause lies below speech, dB, and how long it lasts at least, s. */
const underSpeechDb = 7
const shortestPauseS = 0.7
/** Time after which the tail of a voice has faded, s. */
const fadeS = 0.2
const leastRiseDb = 3
/** Faster releases are those of a compressor that somebody chose, s. */
const fastestS = 0.25
const slowestS = 12

/**
 * Finds automatic gain by what it does to pauses: noise comes up in every one of them, with one time constant. Works on
 * A-weighted levels in steps of some 10 ms.
 */
export function pumpingIn(levels: Float32Array, fineS: number): Pumping | undefined {
  const stepS = together * fineS
  const coarse = coarser(levels, together)
  const pauses = pausesOf(coarse, stepS)
  const enough = pauses.length >= 2 || (pauses.length === 1 && pauses[0]!.levels.length * stepS > 2.5)
  if (!enough) return undefined
  const rising = pauses.filter(({ levels: each }) => riseOf(each) > 1.5)
  if (rising.length < 0.75 * pauses.length) return undefined
  const fit = fitted(
    rising.map(({ levels: each }) => each),
    stepS,
  )
  const rises = rising.map(({ levels: each }) => riseOf(each)).sort((one, other) => one - other)
  const risesDb = rises[Math.floor(0.75 * rises.length)]!
  if (!fit || fit.explained < 0.8 || risesDb < leastRiseDb || fit.tauS < fastestS) return undefined
  return {
    risesDb,
    releaseS: fit.tauS,
    ranges: rising.map(({ fromS, levels: each }) => ({ fromS, toS: fromS + each.length * stepS })),
    confidence: Math.min(0.99, fit.explained * (1 - Math.exp(-rising.length * risesDb * 0.15))),
  }
}

interface Pause {
  fromS: number
  levels: Float32Array
}

/** Pauses between words, without the fades at both ends. */
function pausesOf(levels: Float32Array, stepS: number): Pause[] {
  const loud = quantile(levels, 0.9)
  const limit = loud - underSpeechDb
  const found: Pause[] = []
  let from = -1
  for (let index = 0; index <= levels.length; index++) {
    const isPause = index < levels.length && levels[index]! < limit
    if (isPause && from < 0) from = index
    if (isPause || from < 0) continue
    const begin = from === 0 ? 0 : from + Math.round(fadeS / stepS)
    const end = index - 1
    if ((end - begin) * stepS >= shortestPauseS && from > 0) found.push(pauseOf(levels, begin, end, stepS))
    from = -1
  }
  return found
}
/** It begins at its quietest moment: before that, the voice is still fading. */
function pauseOf(levels: Float32Array, begin: number, end: number, stepS: number): Pause {
  const half = begin + Math.floor((end - begin) / 2)
  let quietest = begin
  for (let index = begin; index < half; index++) if (levels[index]! < levels[quietest]!) quietest = index
  return { fromS: quietest * stepS, levels: levels.slice(quietest, end) }
}
function riseOf(levels: Float32Array): number {
  const part = Math.max(2, Math.floor(levels.length / 6))
  const mean = (some: Float32Array) => some.reduce((sum, level) => sum + level, 0) / some.length
  return mean(levels.slice(-part)) - mean(levels.slice(0, part))
}

/** One time constant for all pauses, each with its own beginning and end: levels as a - b exp(-t / tau). */
function fitted(
  pauses: readonly Float32Array[],
  stepS: number,
): { tauS: number; explained: number } | undefined {
  let best: { tauS: number; error: number } | undefined
  let total = 0
  for (const levels of pauses) {
    const mean = levels.reduce((sum, level) => sum + level, 0) / levels.length
    total += levels.reduce((sum, level) => sum + (level - mean) ** 2, 0)
  }
  for (let tauS = 0.05; tauS <= slowestS; tauS *= 1.06) {
    const error = pauses.reduce((sum, levels) => sum + errorOf(levels, tauS, stepS), 0)
    if (!best || error < best.error) best = { tauS, error }
  }
  return best && { tauS: best.tauS, explained: 1 - best.error / Math.max(1e-9, total) }
}
/** Residual of a pause after the best fit of a and b (b not negative). */
function errorOf(levels: Float32Array, tauS: number, stepS: number): number {
  let [n, sx, sy, sxx, sxy, syy] = [0, 0, 0, 0, 0, 0]
  levels.forEach((level, index) => {
    const x = -Math.exp((-index * stepS) / tauS)
    n++
    sx += x
    sy += level
    sxx += x * x
    sxy += x * level
    syy += level * level
  })
  const spreadX = sxx - (sx * sx) / n
  const b = Math.max(0, spreadX > 1e-12 ? (sxy - (sx * sy) / n) / spreadX : 0)
  const a = (sy - b * sx) / n
  return syy - 2 * a * sy - 2 * b * sxy + n * a * a + 2 * a * b * sx + b * b * sxx
}
