import type { TimeRange } from '../model'
import { FilterChain, highPass } from '../signals'
import { LevelSeries, quantile } from './level-series'

const hopS = 0.02
/** Samples summed for the pitch search: a third of a millisecond. */
const samplesTogether = 4
/** Corner of the high-pass in front, Hz: voices have less above it, cloth does not. */
const fromHz = 2800
/** Least kurtosis of crackling: it has rare large samples. Noise has 3. */
const crackling = 8
/** Correlation with the previous pitch period from which a sound has a pitch. From 0.52 on, vowels are called rustling. */
const repeats = 0.45
/** Correlation from which a sound cannot belong to rustling at all. */
const pitched = 0.5
/** Fewest separate crackles per window on average: in something as short as a consonant, and in what lasts longer. */
const fewestApart = { short: 2.35, long: 2.2 } as const
/** Windows that crackle from which a stretch is longer than a consonant. */
const longWindows = 8
/** Least height of a crackle as a share of the largest. */
const softestShare = 0.2
const pitchS = { from: 0.0035, to: 0.0125 } as const
const underSpeechDb = 42
const overUsualDb = 8
const shortestS = 0.09
const fewestWindows = 5
const joinS = 0.09
/** Least share of a stretch that crackles: a single onset does not. */
const leastShare = 0.5
/** Windows this far below the median at either end do not belong to it, dB. */
const softerByDb = 8
/** Total length at which confidence reaches two thirds, s. */
const sureAfterS = 0.12

const none = -1
/** Offset marking windows that crackle a little and may be the beginning or end. */
const aLittle = 100
const cracklingALittle = 4.5
const mostRepeats = 0.999
const repeatsIn = (window: number): number => (window < 0 ? 1 : window % 1)
const apartIn = (window: number): number => Math.floor(window) % aLittle
const isLittle = (window: number): boolean => window < 0 || window >= aLittle

/**
 * Finds rustling cloth and handling: crackles close together, without pitch, over more than a moment, also while somebody
 * speaks. Wants a rate of some 11 to 16 kHz.
 */
export class RustleMeter {
  private readonly hop: number
  private readonly hopS: number
  private readonly held: Float64Array
  private readonly envelope: Float64Array
  private readonly energies: Float64Array
  /** Highest sample of each 2 ms of the window. */
  private readonly peaks = new Float64Array(20)
  private filled = 0
  private readonly over: FilterChain
  /** For each window its number of crackles plus, as the fraction, their repetition; -1: none. One number each, to save memory. */
  private readonly windows: number[] = []
  private readonly levels = new LevelSeries()
  private readonly lags: readonly [number, number]
  /** The lag at which the last sound with a pitch was alike. */
  private lag: number

  constructor(rateHz: number) {
    this.hop = samplesTogether * Math.round((hopS * rateHz) / samplesTogether)
    this.hopS = this.hop / rateHz
    this.held = new Float64Array(2 * this.hop)
    this.envelope = new Float64Array(this.hop / 2)
    this.energies = new Float64Array(this.hop / 2 + 1)
    this.lags = [
      Math.round((pitchS.from * rateHz) / samplesTogether),
      Math.round((pitchS.to * rateHz) / samplesTogether),
    ]
    this.lag = this.lags[0]
    const highPassed = highPass(fromHz, rateHz)
    this.over = new FilterChain(highPassed, highPassed)
  }

  push(samples: Float32Array): void {
    const { held } = this
    const over = this.over.run(samples.slice())
    for (let from = 0; from < over.length;) {
      const to = Math.min(over.length, from + held.length - this.filled)
      held.set(over.subarray(from, to), this.filled)
      this.filled += to - from
      from = to
      if (this.filled < held.length) continue
      this.look()
      held.copyWithin(0, this.hop)
      this.filled = this.hop
    }
  }

  private look(): void {
    const { held } = this
    let square = 0
    let fourth = 0
    for (let index = 0; index < held.length; index++) {
      const power = held[index]! ** 2
      square += power
      fourth += power * power
    }
    const mean = square / held.length
    this.levels.add(mean)
    const crackle = mean > 0 ? fourth / held.length / (mean * mean) : 0
    const is = crackle > cracklingALittle && mean > 1e-11
    const little = crackle > crackling ? 0 : aLittle
    this.windows.push(is ? little + this.apart() + Math.min(mostRepeats, this.repeating()) : none)
  }

  /** Number of separate crackles: a consonant has one or two. */
  private apart(): number {
    const { held, peaks } = this
    const size = held.length / peaks.length
    let highest = 0
    for (let step = 0; step < peaks.length; step++) {
      let peak = 0
      for (let index = Math.floor(step * size); index < Math.floor((step + 1) * size); index++)
        peak = Math.max(peak, Math.abs(held[index]!))
      peaks[step] = peak
      highest = Math.max(highest, peak)
    }
    let count = 0
    for (let step = 1; step < peaks.length - 1; step++) {
      const peak = peaks[step]!
      const beside = Math.max(peaks[step - 1]!, peaks[step + 1]!)
      if (peak > softestShare * highest && beside < 0.7 * peak) count++
    }
    return count
  }

  /** Correlation of the bursts with those one pitch period later, 0 to 1; enough of it ends the search. */
  private repeating(): number {
    const { held, envelope, energies, lags } = this
    let mean = 0
    for (let index = 0; index < envelope.length; index++) {
      let sum = 0
      for (let at = samplesTogether * index; at < samplesTogether * (index + 1); at++)
        sum += Math.abs(held[at]!)
      envelope[index] = sum
      mean += envelope[index]!
    }
    mean /= envelope.length
    for (let index = 0; index < envelope.length; index++) envelope[index]! -= mean
    // energies of all that is left when a number of them is taken off at the beginning or at the end
    let total = 0
    for (let index = 0; index < envelope.length; index++) {
      energies[index] = total
      total += envelope[index]! ** 2
    }
    energies[envelope.length] = total
    const alikeAt = (lag: number): number => {
      const late = total - energies[lag]!
      const early = energies[envelope.length - lag]!
      return productAt(envelope, lag) / Math.sqrt(late * early + 1e-30)
    }
    // a voice has nearly the pitch that it had a moment ago
    let most = Math.max(0, alikeAt(this.lag))
    for (let lag = lags[0]; lag <= lags[1] && most < pitched; lag++) {
      const alike = alikeAt(lag)
      if (alike <= most) continue
      most = alike
      this.lag = lag
    }
    return most
  }

  /** @param speechDb level of speech, mean square in dB */
  finish(speechDb: number): { ranges: TimeRange[]; confidence: number } {
    const levels = this.levels.levels()
    const limit = Math.max(quantile(levels, 0.2) + overUsualDb, speechDb - underSpeechDb)
    const real = this.stretches(levels, limit).flatMap((whole) => {
      const { from, to } = this.withoutEnds(whole, levels)
      const inside = this.windows
        .slice(from, to + 1)
        .filter((window) => !isLittle(window) && repeatsIn(window) < repeats)
      const crackles = inside.reduce((sum, window) => sum + apartIn(window), 0)
      // from the middle of the first window to that of the last; a window is two steps long
      const [fromS, toS] = [(from + 1) * this.hopS, (to + 1) * this.hopS]
      const fewest = inside.length < longWindows ? fewestApart.short : fewestApart.long
      const isRustle =
        toS - fromS >= shortestS &&
        inside.length >= fewestWindows &&
        inside.length > leastShare * (to - from) &&
        crackles >= fewest * inside.length
      return isRustle ? [{ fromS, toS, count: inside.length }] : []
    })
    // the more of it crackles, the surer
    const crackledS = real.reduce((sum, { count }) => sum + count * this.hopS, 0)
    return {
      ranges: real.map(({ fromS, toS }) => ({ fromS, toS })),
      confidence: 1 - Math.exp(-crackledS / sureAfterS),
    }
  }

  /** Windows close together that crackle, with what crackles a little beside them: first and last of each stretch. */
  private stretches(levels: Float32Array, limit: number): Stretch[] {
    const found: Stretch[] = []
    const { windows } = this
    const crackles = (index: number): boolean =>
      !isLittle(windows[index] ?? none) && repeatsIn(windows[index]!) < repeats && levels[index]! >= limit
    const mayBelong = (index: number): boolean =>
      repeatsIn(windows[index] ?? none) < pitched && levels[index]! >= limit
    windows.forEach((_, index) => {
      if (!crackles(index)) return
      let [from, to] = [index, index]
      while (mayBelong(from - 1)) from--
      while (mayBelong(to + 1)) to++
      const last = found.at(-1)
      if (last && (from - last.to) * this.hopS < joinS) last.to = Math.max(last.to, to)
      else found.push({ from, to })
    })
    return found
  }

  /** A consonant before it or the noise after it may crackle a little, and is no part of it. */
  private withoutEnds({ from, to }: Stretch, levels: Float32Array): Stretch {
    const softest = quantile(levels.subarray(from, to + 1), 0.5) - softerByDb
    const isEnd = (index: number) => levels[index]! < softest || apartIn(this.windows[index]!) < 1
    while (from < to && isEnd(from)) from++
    while (from < to && isEnd(to)) to--
    return { from, to }
  }
}

/** Sum of the products of values `lag` apart, in four parts, so that none has to wait for its own last value. */
function productAt(values: Float64Array, lag: number): number {
  let [one, two, three, four] = [0, 0, 0, 0]
  let index = lag
  for (; index + 3 < values.length; index += 4) {
    one += values[index]! * values[index - lag]!
    two += values[index + 1]! * values[index + 1 - lag]!
    three += values[index + 2]! * values[index + 2 - lag]!
    four += values[index + 3]! * values[index + 3 - lag]!
  }
  for (; index < values.length; index++) one += values[index]! * values[index - lag]!
  return one + two + three + four
}

interface Stretch {
  from: number
  to: number
}
