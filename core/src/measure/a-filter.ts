import { aWeightingDb, aWeightingPolesHz, amplitudeFromDb } from '../units'

/**
 * A-weighting for samples. The three low poles by the bilinear transform, exact where they act; the double pole at
 * 12.2 kHz as a one-pole low-pass, twice, matched to the analogue curve at 0 Hz, at half the rate and at the pole (at a
 * quarter of the rate where the pole lies above a third), because the bilinear transform would cut the top octave.
 * Normalised at 1 kHz. Six stages of first order, four y = x - x' + a y' and two y = x + d x' + a y', their gains in one
 * factor at the end: this runs once for every sample of a clip.
 */
export class AFilter {
  /** Poles of the stages, the low one counted twice, and zero and pole of the two high ones. */
  private readonly low: number
  private readonly second: number
  private readonly third: number
  private readonly zero: number
  private readonly high: number
  /** The last sample, and what came out of each stage. */
  private readonly held = new Float64Array(7)
  private readonly single = new Float32Array(1)
  private readonly scale: number

  constructor(rateHz: number) {
    const { low, second, third, high } = aWeightingPolesHz
    const highPass = (poleHz: number) => {
      const warped = Math.tan((Math.PI * poleHz) / rateHz)
      return (1 - warped) / (1 + warped)
    }
    this.low = highPass(low)
    this.second = highPass(second)
    this.third = highPass(third)
    // |H|^2 = (1 + g^2 r u) / (1 + r u), with r = ((1 + a) / (1 - a))^2 and u = tan^2(half the angle), is solved for r
    const atHalfRate = 1 / Math.hypot(1, rateHz / 2 / high)
    const matchedHz = high < rateHz / 3 ? high : rateHz / 4
    const u = Math.tan((Math.PI * matchedHz) / rateHz) ** 2
    const wanted = 1 / (1 + (matchedHz / high) ** 2)
    const root = Math.sqrt((1 - wanted) / (wanted - atHalfRate ** 2) / u)
    this.high = (root - 1) / (root + 1)
    const sum = 1 - this.high
    const difference = atHalfRate * (1 + this.high)
    this.zero = (sum - difference) / (sum + difference)
    this.scale = 1
    this.scale = amplitudeFromDb(aWeightingDb(1000)) / this.response(1000, rateHz)
  }

  /** Magnitude at a frequency, for checks. */
  response(frequencyHz: number, rateHz: number): number {
    const angle = (2 * Math.PI * frequencyHz) / rateHz
    const size = (zero: number, pole: number) =>
      Math.hypot(1 + zero * Math.cos(angle), zero * Math.sin(angle)) /
      Math.hypot(1 - pole * Math.cos(angle), pole * Math.sin(angle))
    const { low, second, third, zero, high } = this
    const lows = size(-1, low) ** 2 * size(-1, second) * size(-1, third)
    return this.scale * lows * size(zero, high) ** 2
  }

  /** Sum of the squares of the weighted samples between two places. */
  power(samples: Float32Array, from: number, to: number): number {
    const { low, second, third, zero, high, held } = this
    let sum = 0
    let x = held[0]!
    let y0 = held[1]!
    let y1 = held[2]!
    let y2 = held[3]!
    let y3 = held[4]!
    let y4 = held[5]!
    let y5 = held[6]!
    for (let index = from; index < to; index++) {
      const sample = samples[index]!
      const z0 = sample - x + low * y0
      const z1 = z0 - y0 + low * y1
      const z2 = z1 - y1 + second * y2
      const z3 = z2 - y2 + third * y3
      const z4 = z3 + zero * y3 + high * y4
      y5 = z4 + zero * y4 + high * y5
      x = sample
      y0 = z0
      y1 = z1
      y2 = z2
      y3 = z3
      y4 = z4
      sum += y5 * y5
    }
    held[0] = x
    held[1] = y0
    held[2] = y1
    held[3] = y2
    held[4] = y3
    held[5] = y4
    held[6] = y5
    return sum * this.scale * this.scale
  }

  /** The weighted sample, of one as a file holds it. */
  next(sample: number): number {
    this.single[0] = sample
    this.power(this.single, 0, 1)
    return this.held[6]! * this.scale
  }
}
