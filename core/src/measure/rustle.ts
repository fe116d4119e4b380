import type { TimeRange } from '../model'
import { LevelSeries, quantile } from './level-series'

const hopS = 0.02
/** Listened to is what lies over this: voices have less of it, cloth as much as anywhere. */
const fromHz = 1500
/** Sound that crackles has rare large samples: the fourth power against the second; noise has 3. */
const crackling = 8
/** Sound with a pitch repeats its bursts; what crackles does not. */
const repeats = 0.4
const pitchS = { from: 0.0035, to: 0.0125 } as const
const underSpeechDb = 42
const overUsualDb = 8
const shortestS = 0.09
const joinS = 0.13
/** So much of a stretch crackles: a single beginning of a sound is none. */
const leastShare = 0.6

/**
 * Finds rustling cloth and handling: crackles close together, without pitch, over more than a moment, also while somebody
 * speaks. Wants a rate of some 11 to 16 kHz.
 */
export class RustleMeter {
  private readonly hop: number
  private readonly hopS: number
  private readonly held: Float64Array
  private readonly envelope: Float64Array
  private filled = 0
  /** The high-pass of second order, twice. */
  private readonly c: readonly [number, number, number]
  private readonly s = new Float64Array(4)
  private readonly crackles: number[] = []
  private readonly levels = new LevelSeries()
  private readonly lags: readonly [number, number]

  constructor(rateHz: number) {
    this.hop = 2 * Math.round((hopS * rateHz) / 2)
    this.hopS = this.hop / rateHz
    this.held = new Float64Array(2 * this.hop)
    this.envelope = new Float64Array(this.hop)
    this.lags = [Math.round((pitchS.from * rateHz) / 2), Math.round((pitchS.to * rateHz) / 2)]
    const k = Math.tan((Math.PI * fromHz) / rateHz)
    const a0 = 1 + Math.SQRT2 * k + k * k
    this.c = [1 / a0, (2 * (k * k - 1)) / a0, (1 - Math.SQRT2 * k + k * k) / a0]
  }

  push(samples: Float32Array): void {
    const { s, held } = this
    const [b, a1, a2] = this.c
    for (let index = 0; index < samples.length; index++) {
      const sample = samples[index]!
      const once = b * sample + s[0]!
      s[0] = -2 * b * sample - a1 * once + s[1]!
      s[1] = b * sample - a2 * once
      const twice = b * once + s[2]!
      s[2] = -2 * b * once - a1 * twice + s[3]!
      s[3] = b * once - a2 * twice
      held[this.filled++] = twice
      if (this.filled < held.length) continue
      this.look()
      held.copyWithin(0, this.hop)
      this.filled = this.hop
    }
  }

  private look(): void {
    const { held } = this
    let [square, fourth] = [0, 0]
    for (let index = 0; index < held.length; index++) {
      const power = held[index]! ** 2
      square += power
      fourth += power * power
    }
    const mean = square / held.length
    this.levels.add(mean)
    const crackle = mean > 0 ? fourth / held.length / (mean * mean) : 0
    this.crackles.push(crackle > crackling && mean > 1e-11 && this.repeating() < repeats ? 1 : 0)
  }

  /** How alike the bursts are to those one pitch period later, 0 to 1. */
  private repeating(): number {
    const { held, envelope, lags } = this
    let mean = 0
    for (let index = 0; index < envelope.length; index++) {
      envelope[index] = Math.abs(held[2 * index]!) + Math.abs(held[2 * index + 1]!)
      mean += envelope[index]!
    }
    mean /= envelope.length
    for (let index = 0; index < envelope.length; index++) envelope[index]! -= mean
    let most = 0
    for (let lag = lags[0]; lag <= lags[1]; lag++) {
      let [product, late, early] = [0, 0, 0]
      for (let index = lag; index < envelope.length; index++) {
        const [one, other] = [envelope[index]!, envelope[index - lag]!]
        product += one * other
        late += one * one
        early += other * other
      }
      const alike = product / Math.sqrt(late * early + 1e-30)
      if (alike > most) most = alike
    }
    return most
  }

  /** @param speechDb level of speech, mean square in dB */
  finish(speechDb: number): TimeRange[] {
    const levels = this.levels.levels()
    const limit = Math.max(quantile(levels, 0.2) + overUsualDb, speechDb - underSpeechDb)
    const ranges: (TimeRange & { count: number })[] = []
    this.crackles.forEach((crackles, index) => {
      if (!crackles || levels[index]! < limit) return
      // the window is two steps long, and the first crackle stands near its end
      const fromS = (index + 1) * this.hopS
      const toS = fromS + 0.5 * this.hopS
      const last = ranges.at(-1)
      if (last && fromS - last.toS < joinS) {
        last.toS = toS
        last.count++
      } else ranges.push({ fromS, toS, count: 1 })
    })
    return ranges
      .filter(
        ({ fromS, toS, count }) => toS - fromS >= shortestS && count * this.hopS > leastShare * (toS - fromS),
      )
      .map(({ fromS, toS }) => ({ fromS, toS }))
  }
}
