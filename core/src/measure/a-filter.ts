import { aWeightingDb, aWeightingPolesHz, amplitudeFromDb } from '../units'

/**
 * A-weighting for samples. The three low poles by the bilinear transform, exact where they act; the double pole at
 * 12.2 kHz as a one-pole low-pass, twice, matched to the analogue curve at 0 Hz, at half the rate and at the pole (at a
 * quarter of the rate where the pole lies above a third), because the bilinear transform would cut the top octave.
 * Normalised at 1 kHz.
 */
export class AFilter {
  /** Six stages of first order, y = b0 x + b1 x' + a y', side by side: once for every sample of a clip. */
  private readonly a: Float64Array
  private readonly b0: Float64Array
  private readonly b1: Float64Array
  private readonly x = new Float64Array(6)
  private readonly y = new Float64Array(6)
  private readonly scale: number

  constructor(rateHz: number) {
    const { low, second, third, high } = aWeightingPolesHz
    const highPass = [low, low, second, third].map((poleHz) => {
      const warped = Math.tan((Math.PI * poleHz) / rateHz)
      const a = (1 - warped) / (1 + warped)
      return { a, b0: (1 + a) / 2, b1: -(1 + a) / 2 }
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
    const lowPass = { a, b0: (sum + difference) / 2, b1: (sum - difference) / 2 }
    const stages = [...highPass, lowPass, lowPass]
    this.a = Float64Array.from(stages, (stage) => stage.a)
    this.b0 = Float64Array.from(stages, (stage) => stage.b0)
    this.b1 = Float64Array.from(stages, (stage) => stage.b1)
    this.scale = 1
    this.scale = amplitudeFromDb(aWeightingDb(1000)) / this.response(1000, rateHz)
  }

  /** Magnitude at a frequency, for checks. */
  response(frequencyHz: number, rateHz: number): number {
    const angle = (2 * Math.PI * frequencyHz) / rateHz
    const size = (b0: number, b1: number, a: number) =>
      Math.hypot(b0 + b1 * Math.cos(angle), b1 * Math.sin(angle)) /
      Math.hypot(1 - a * Math.cos(angle), a * Math.sin(angle))
    return this.a.reduce(
      (product, a, stage) => product * size(this.b0[stage]!, this.b1[stage]!, a),
      this.scale,
    )
  }

  /** The weighted sample. */
  next(sample: number): number {
    const { a, b0, b1, x, y } = this
    let value = sample
    for (let stage = 0; stage < 6; stage++) {
      const out = b0[stage]! * value + b1[stage]! * x[stage]! + a[stage]! * y[stage]!
      x[stage] = value
      y[stage] = out
      value = out
    }
    return value * this.scale
  }
}
