import type { TimeRange } from '../model'
import { Decimator } from './decimator'
import { LevelSeries, quantile } from './level-series'

const hopS = 0.02
/** Sound that crackles has rare large samples: the fourth power against the second; noise has 3. */
const crackling = 6.5
/** Sound with a pitch repeats itself; what crackles does not. */
const repeats = 0.45
const pitchS = { from: 0.0025, to: 0.0125 } as const
const underSpeechDb = 26
const overUsualDb = 10
const shortestS = 0.07
const joinS = 0.3

/**
 * Finds rustling cloth and handling: crackles close together, without pitch, over more than a moment. Wants a rate of some
 * 11 to 16 kHz.
 */
export class RustleMeter {
  private readonly half = new Decimator(2)
  private readonly hop: number
  private readonly hopS: number
  private readonly held: Float64Array
  private filled = 0
  private highPassed = 0
  private before = 0
  private readonly keep: number
  private readonly crackles: number[] = []
  private readonly levels = new LevelSeries()
  private readonly lags: [number, number]

  constructor(rateHz: number) {
    const halfRateHz = rateHz / 2
    this.hop = Math.round(hopS * halfRateHz)
    this.hopS = this.hop / halfRateHz
    this.held = new Float64Array(2 * this.hop)
    this.keep = Math.exp((-2 * Math.PI * 300) / halfRateHz)
    this.lags = [Math.round(pitchS.from * halfRateHz), Math.round(pitchS.to * halfRateHz)]
  }

  push(samples: Float32Array): void {
    for (const sample of this.half.push(samples)) {
      this.highPassed = this.keep * (this.highPassed + sample - this.before)
      this.before = sample
      this.held[this.filled++] = this.highPassed
      if (this.filled < this.held.length) continue
      this.look()
      this.held.copyWithin(0, this.hop)
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
    this.crackles.push(crackle > crackling && mean > 1e-8 && this.repeating(square) < repeats ? 1 : 0)
  }

  /** How alike the wave is to itself one pitch period later, 0 to 1. */
  private repeating(square: number): number {
    const { held, lags } = this
    let most = 0
    for (let lag = lags[0]; lag <= lags[1]; lag++) {
      let [sum, later] = [0, 0]
      for (let index = lag; index < held.length; index++) {
        sum += held[index]! * held[index - lag]!
        later += held[index]! ** 2
      }
      const alike = sum / Math.sqrt(Math.max(1e-30, square * later))
      if (alike > most) most = alike
    }
    return most
  }

  /** @param speechDb level of speech, mean square in dB */
  finish(speechDb: number): TimeRange[] {
    const levels = this.levels.levels()
    const limit = Math.max(quantile(levels, 0.2) + overUsualDb, speechDb - underSpeechDb)
    const is = this.crackles.map((crackles, index) => crackles === 1 && levels[index]! > limit)
    const ranges: (TimeRange & { count: number })[] = []
    is.forEach((here, index) => {
      if (!here) return
      const fromS = (index + 0.5) * this.hopS
      const last = ranges.at(-1)
      if (last && fromS - last.toS < joinS) {
        last.toS = fromS + this.hopS
        last.count++
      } else ranges.push({ fromS, toS: fromS + this.hopS, count: 1 })
    })
    return ranges
      .filter(({ fromS, toS, count }) => toS - fromS >= shortestS && count * this.hopS > 0.35 * (toS - fromS))
      .map(({ fromS, toS }) => ({ fromS, toS }))
  }
}
