import { aWeightingDb, aWeightingPolesHz, amplitudeFromDb } from '../units'

type Six = [number, number, number, number, number, number]

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

  /** Sum of the squares of the weighted samples between two places. */
  power(samples: Float32Array, from: number, to: number): number {
    const { a, b0, b1, x, y } = this
    let sum = 0
    const [a0, a1, a2, a3, a4, a5] = a as unknown as Six
    const [c0, c1, c2, c3, c4, c5] = b0 as unknown as Six
    const [d0, d1, d2, d3, d4, d5] = b1 as unknown as Six
    let [x0, x1, x2, x3, x4, x5] = x as unknown as Six
    let [y0, y1, y2, y3, y4, y5] = y as unknown as Six
    for (let index = from; index < to; index++) {
      const sample = samples[index]!
      y0 = c0 * sample + d0 * x0 + a0 * y0
      x0 = sample
      y1 = c1 * y0 + d1 * x1 + a1 * y1
      x1 = y0
      y2 = c2 * y1 + d2 * x2 + a2 * y2
      x2 = y1
      y3 = c3 * y2 + d3 * x3 + a3 * y3
      x3 = y2
      y4 = c4 * y3 + d4 * x4 + a4 * y4
      x4 = y3
      y5 = c5 * y4 + d5 * x5 + a5 * y5
      x5 = y4
      sum += y5 * y5
    }
    x.set([x0, x1, x2, x3, x4, x5])
    y.set([y0, y1, y2, y3, y4, y5])
    return sum * this.scale * this.scale
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
