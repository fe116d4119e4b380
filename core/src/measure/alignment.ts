import { type Clip } from '../media'
import { amplitudeFromDb, powerDb, powerFromDb } from '../units'
import { correlationOf, crossSpectrum } from './fourier'

/** Where a clip lies beside another one of the same sound. */
export interface Alignment {
  /** How much later the second begins than the first, s; negative: earlier. */
  offsetS: number
  /** Correlation of their waves there, 0 to 1. */
  likeness: number
  /** Whether they are the same sound: if not, the offset means nothing. */
  isSame: boolean
}

const stepS = 0.01
/** Steps of the moving mean that is taken off the levels: only their changes are compared, not how loud a clip is. */
const trendSteps = 100
/** Steps this far below the mean power are left out, dB: the device was not running yet, or had lost its radio. */
const audibleDownToDb = 60
/** Shortest overlap that is tried, s. */
const shortestOverlapS = 1.5
/**
 * Correlation of the waves from which they are the same sound, for a whole stretch in common. Of different voices it is 0.11
 * at most, of one voice under a far microphone in a hall 0.23 at least.
 */
const alikeFrom = 0.15
/** Samples this far below the RMS of a stretch are gaps between its sounds, dB. */
const gapDb = 40
/** Offsets that are tried. */
const mostTried = 4
/** Lags closer than this belong to one peak of the correlation, s. */
const peakS = 0.25
const fineRateHz = 16_000
const fineS = 4
const fineReachS = 0.03

/**
 * Aligns two clips of the same moment by their sound alone. How their levels rise and fall gives some likely offsets to a
 * hundredth of a second; the waves around the loudest moment decide between them, give the rest, and tell whether it is the
 * same sound at all: the levels of any two voices are alike somewhere. Reads each clip once, and a few stretches again.
 */
export async function alignmentOf(
  first: Clip,
  firstChannel: number,
  second: Clip,
  secondChannel: number,
): Promise<Alignment> {
  const one = await changesIn(first, firstChannel)
  const other = await changesIn(second, secondChannel)
  let best: Alignment = { offsetS: 0, likeness: 0, isSame: false }
  for (const lag of likelyLags(one, other)) {
    const found = await fine(first, firstChannel, second, secondChannel, lag * stepS, one)
    // a short stretch in common is more alike by chance, and needs more
    if (found.isSame === best.isSame ? found.likeness > best.likeness : found.isSame) best = found
  }
  return best.isSame ? best : { ...best, offsetS: 0 }
}

/** Levels in steps, dB, without their slow changes. */
async function changesIn(clip: Clip, channel: number): Promise<Float64Array> {
  const frames = Math.round(stepS * clip.rateHz)
  const powers: number[] = []
  let [sum, count, last] = [0, 0, 0]
  for await (const block of clip.blocks())
    for (const sample of block[channel]!) {
      // differences from sample to sample: rumble that one of them has counts for little
      sum += (sample - last) ** 2
      last = sample
      if (++count < frames) continue
      powers.push(sum / frames)
      sum = count = 0
    }
  const usual = powers.reduce((all, power) => all + power, 0) / powers.length
  const least = usual * powerFromDb(-audibleDownToDb)
  const levels = powers.map((power) => (power > least ? powerDb(power) : undefined))
  const sums = new Float64Array(levels.length + 1)
  const counts = new Uint32Array(levels.length + 1)
  levels.forEach((level, index) => {
    sums[index + 1] = sums[index]! + (level ?? 0)
    counts[index + 1] = counts[index]! + Number(level !== undefined)
  })
  return Float64Array.from(levels, (level, index) => {
    const [from, to] = [Math.max(0, index - trendSteps), Math.min(levels.length, index + trendSteps + 1)]
    // silence is like nothing, and unlike nothing
    return level === undefined ? 0 : level - (sums[to]! - sums[from]!) / (counts[to]! - counts[from]!)
  })
}

/** Lags, in steps, at which two runs of levels are most alike over what they have in common; the best first. */
function likelyLags(one: Float64Array, other: Float64Array): number[] {
  const products = correlation(one, other)
  const [squares, otherSquares] = [squaresUpTo(one), squaresUpTo(other)]
  const shortest = Math.min(shortestOverlapS / stepS, one.length / 2, other.length / 2)
  const alike = (lag: number): number => {
    // the second begins `lag` steps after the first
    const [from, to] = [Math.max(0, lag), Math.min(one.length, other.length + lag)]
    if (to - from < shortest) return 0
    const energy = (squares[to]! - squares[from]!) * (otherSquares[to - lag]! - otherSquares[from - lag]!)
    // a short overlap is alike by chance
    return energy > 0 ? (products(lag) / Math.sqrt(energy)) * Math.min(1, (to - from) / (3 * shortest)) : 0
  }
  const all = Float32Array.from({ length: Math.max(0, one.length + other.length - 1) }, (_, index) =>
    alike(index + 1 - other.length),
  )
  const found: number[] = []
  while (found.length < mostTried) {
    const best = all.reduce((most, likeness, index) => (likeness > all[most]! ? index : most), 0)
    if (!(all[best]! > 0)) break
    found.push(best + 1 - other.length)
    const near = Math.round(peakS / stepS)
    all.fill(0, Math.max(0, best - near), best + near + 1)
  }
  return found
}
const squaresUpTo = (values: Float64Array): Float64Array => {
  const sums = new Float64Array(values.length + 1)
  values.forEach((value, index) => (sums[index + 1] = sums[index]! + value * value))
  return sums
}

/** Sums of products of two series at any lag of the second. */
const correlation = (one: Float64Array, other: Float64Array): ((lag: number) => number) =>
  correlationOf(crossSpectrum(one, other, 2 ** Math.ceil(Math.log2(one.length + other.length + 1))))

/** Refines an offset by the waves around the loudest moment that both clips contain, and tells how alike they are. */
async function fine(
  first: Clip,
  firstChannel: number,
  second: Clip,
  secondChannel: number,
  coarseS: number,
  changes: Float64Array,
): Promise<Alignment> {
  const from = Math.max(0, coarseS)
  const to = Math.min(first.frames / first.rateHz, coarseS + second.frames / second.rateHz)
  const atS = Math.max(from, Math.min(loudestS(changes, from, to) - fineS / 2, to - fineS))
  const one = await stretchOf(first, firstChannel, atS, fineS)
  const other = await stretchOf(second, secondChannel, atS - coarseS, fineS)
  const at = correlation(one, other)
  const reach = Math.round(fineReachS * fineRateHz)
  let best = 0
  // the second may be upside down
  for (let lag = -reach; lag <= reach; lag++) if (Math.abs(at(lag)) > Math.abs(at(best))) best = lag
  const sign = Math.sign(at(best)) || 1
  const [left, middle, right] = [sign * at(best - 1), sign * at(best), sign * at(best + 1)]
  const curve = left - 2 * middle + right
  const refined = best + (curve < 0 ? (0.5 * (left - right)) / curve : 0)
  const likeness = Math.min(1, middle / Math.sqrt(energyOf(one) * energyOf(other) + 1e-30))
  // the less sound they have in common, the more alike they are by chance
  const [least, otherLeast] = [audibleIn(one), audibleIn(other)]
  const inCommon = one.reduce(
    (count, sample, index) =>
      count + Number(Math.abs(sample) > least && Math.abs(other[index]!) > otherLeast),
    0,
  )
  const needed = alikeFrom * Math.sqrt(one.length / Math.max(1, inCommon))
  return { offsetS: coarseS + refined / fineRateHz, likeness, isSame: likeness >= needed }
}
/** Size from which a sample of a stretch is sound and not a gap in it. */
const audibleIn = (samples: Float64Array): number =>
  amplitudeFromDb(-gapDb) * Math.sqrt(energyOf(samples) / samples.length)
const energyOf = (samples: Float64Array): number => samples.reduce((sum, sample) => sum + sample * sample, 0)
function loudestS(changes: Float64Array, fromS: number, toS: number): number {
  let best = Math.floor(fromS / stepS)
  for (let index = best; index < Math.min(changes.length, toS / stepS); index++)
    if (changes[index]! > changes[best]!) best = index
  return best * stepS
}

/** A stretch of a channel at a common rate, without sound below speech. */
async function stretchOf(clip: Clip, channel: number, fromS: number, lengthS: number): Promise<Float64Array> {
  const from = Math.max(0, Math.floor(fromS * clip.rateHz))
  const samples: number[] = []
  for await (const block of clip.blocks({ from, to: from + Math.ceil(lengthS * clip.rateHz) + 2 }))
    for (const sample of block[channel]!) samples.push(sample)
  const out = new Float64Array(Math.floor(lengthS * fineRateHz))
  let last = 0
  for (let index = 0; index < out.length; index++) {
    const at = (fromS + index / fineRateHz) * clip.rateHz - from
    const whole = Math.floor(at)
    const value =
      whole < 0
        ? 0
        : (samples[whole] ?? 0) + (at - whole) * ((samples[whole + 1] ?? 0) - (samples[whole] ?? 0))
    out[index] = value - last
    last = value
  }
  return out
}
