import { aWeightingDb, aWeightingPolesHz, amplitudeFromDb } from '../units'

/**
 * A-weighting for samples. The three low poles by the bilinear transform, exact where they act; the double pole at
 * 12.2 kHz as a one-pole low-pass, twice, matched to the analogue curve at 0 Hz, at half the rate and at the pole (at a
 * quarter of the rate where the pole lies above a third), because the bilinear transform would cut the top octave.
 * Normalised at 1 kHz.
 */
export class AFilter {
  private readonly high: { a: number; x: number; y: number }[]
  private readonly low: { a: number; b0: number; b1: number; x: number; y: number }[]
  private readonly scale: number

  constructor(rateHz: number) {
    const { low, second, third, high } = aWeightingPolesHz
    this.high = [low, low, second, third].map((poleHz) => {
      const warped = Math.tan((Math.PI * poleHz) / rateHz)
      return { a: (1 - warped) / (1 + warped), x: 0, y: 0 }
    })
    // |H|^2 = (1 + g^2 r u) / (1 + r u), with r = ((1 + a) / (1 - a))^2 and u = tan^2(half the angle), is solved for r
    const atHalfRate = 1 / Math.hypot(1, rateHz / 2 / high)
    const matchedHz = high < rateHz / 3 ? high : rateHz / 4
    const u = Math.tan((Math.PI * matchedHz) / rateHz) ** 2
    const wanted = 1 / (1 + (matchedHz / high) ** 2)
    const root = Math.sqrt((1 - wanted) / (wanted - atHalfRate ** 2) / u)
    const a = (root - 1) / (root + 1)
    const sum = 1 - a
    const difference = atHalfRate * (1 + a)
    const stage = { a, b0: (sum + difference) / 2, b1: (sum - difference) / 2 }
    this.low = [stage, stage].map((each) => ({ ...each, x: 0, y: 0 }))
    this.scale = 1
    this.scale = amplitudeFromDb(aWeightingDb(1000)) / this.response(1000, rateHz)
  }

  /** Magnitude at a frequency, for checks. */
  response(frequencyHz: number, rateHz: number): number {
    const angle = (2 * Math.PI * frequencyHz) / rateHz
    const size = (b0: number, b1: number, a: number) =>
      Math.hypot(b0 + b1 * Math.cos(angle), b1 * Math.sin(angle)) /
      Math.hypot(1 - a * Math.cos(angle), a * Math.sin(angle))
    const high = this.high.reduce((product, { a }) => product * size((1 + a) / 2, -(1 + a) / 2, a), 1)
    return this.scale * this.low.reduce((product, { a, b0, b1 }) => product * size(b0, b1, a), high)
  }

  /** The weighted sample. */
  next(sample: number): number {
    let value = sample
    for (const stage of this.high) {
      const y = ((1 + stage.a) / 2) * (value - stage.x) + stage.a * stage.y
      stage.x = value
      stage.y = y
      value = y
    }
    for (const stage of this.low) {
      const y = stage.b0 * value + stage.b1 * stage.x + stage.a * stage.y
      stage.x = value
      stage.y = y
      value = y
    }
    return value * this.scale
  }
}
