import type { Loudness } from '../model'
import { powerDb } from '../units'

/**
 * K-weighting of ITU-R BS.1770-5, Annex 1: its two filters as analogue prototypes (a shelf of 4 dB at 1682 Hz, a
 * high-pass at 38 Hz), so that any rate has its own coefficients; at 48 kHz they are those of the recommendation's tables.
 */
export class KFilter {
  private readonly c: Float64Array
  private readonly s = new Float64Array(4)

  constructor(rateHz: number) {
    const shelf = (() => {
      const k = Math.tan((Math.PI * 1681.974450955533) / rateHz)
      const q = 0.7071752369554196
      const high = 10 ** (3.999843853973347 / 20)
      const band = high ** 0.4996667741545416
      const a0 = 1 + k / q + k * k
      return [
        (high + (band * k) / q + k * k) / a0,
        (2 * (k * k - high)) / a0,
        (high - (band * k) / q + k * k) / a0,
        (2 * (k * k - 1)) / a0,
        (1 - k / q + k * k) / a0,
      ]
    })()
    const k = Math.tan((Math.PI * 38.13547087602444) / rateHz)
    const q = 0.5003270373238773
    const a0 = 1 + k / q + k * k
    this.c = Float64Array.from([...shelf, (2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0])
  }

  /** Sum of the squares of the weighted samples between two places. */
  power(samples: Float32Array, from: number, to: number): number {
    const { c, s } = this
    const b0 = c[0]!
    const b1 = c[1]!
    const b2 = c[2]!
    const a1 = c[3]!
    const a2 = c[4]!
    const h1 = c[5]!
    const h2 = c[6]!
    let s0 = s[0]!
    let s1 = s[1]!
    let s2 = s[2]!
    let s3 = s[3]!
    let sum = 0
    for (let index = from; index < to; index++) {
      const x = samples[index]!
      const y = b0 * x + s0
      // what waits for y comes last in each sum: the processor works on the rest meanwhile
      s0 = b1 * x + s1 - a1 * y
      s1 = b2 * x - a2 * y
      const z = y + s2
      s2 = s3 - 2 * y - h1 * z
      s3 = y - h2 * z
      sum += z * z
    }
    this.s[0] = Math.abs(s0) < 1e-30 ? 0 : s0
    this.s[1] = Math.abs(s1) < 1e-30 ? 0 : s1
    this.s[2] = Math.abs(s2) < 1e-30 ? 0 : s2
    this.s[3] = Math.abs(s3) < 1e-30 ? 0 : s3
    return sum
  }
}

/** Step for the largest momentary loudness, s; gates and ranges use steps of a tenth of a second. */
const fineS = 0.02
const fineInStep = 5
const fineInMomentary = 20
const momentarySteps = 4
const shortTermSteps = 30
const offsetDb = -0.691
const absoluteGateLufs = -70
const lufsOf = (meanSquare: number): number => offsetDb + powerDb(meanSquare)
const finite = (value: number): number | null => (Number.isFinite(value) ? value : null)

/** The weighted power of one channel, every 20 ms: all that its loudness needs. */
export class LoudnessPowers {
  private readonly filter: KFilter
  private readonly fineFrames: number
  private powers = new Float32Array(1024)
  private count = 0
  private sum = 0
  private frames = 0

  constructor(rateHz: number) {
    this.filter = new KFilter(rateHz)
    this.fineFrames = Math.round(fineS * rateHz)
  }

  push(samples: Float32Array): void {
    for (let from = 0; from < samples.length;) {
      const to = Math.min(samples.length, from + this.fineFrames - this.frames)
      this.sum += this.filter.power(samples, from, to)
      this.frames += to - from
      from = to
      if (this.frames === this.fineFrames) this.close()
    }
  }
  private close(): void {
    if (this.count === this.powers.length) {
      const larger = new Float32Array(2 * this.count)
      larger.set(this.powers)
      this.powers = larger
    }
    this.powers[this.count++] = this.sum / this.fineFrames
    this.sum = this.frames = 0
  }

  finish(): Float32Array {
    return this.powers.slice(0, this.count)
  }
}

/**
 * Loudness to ITU-R BS.1770-5 and EBU R 128 with its range to EBU Tech 3342, from the weighted powers of all channels.
 *
 * @param weights of the channels; left out 1: surround channels count 1.41, low-frequency effects nothing
 */
export function loudnessOf(channels: readonly Float32Array[], weights: readonly number[] = []): Loudness {
  const fine = new Float64Array(channels[0]?.length ?? 0)
  channels.forEach((powers, channel) => {
    const weight = weights[channel] ?? 1
    for (let index = 0; index < fine.length; index++) fine[index]! += weight * powers[index]!
  })
  const steps = windows(fine, fineInStep, fineInStep)
  const shortTerm = windows(steps, shortTermSteps)
  return {
    integratedLufs: finite(lufsOf(gatedMean(windows(steps, momentarySteps), -10))),
    momentaryLufs: finite(lufsOf(highest(windows(fine, fineInMomentary)))),
    shortTermLufs: finite(lufsOf(highest(shortTerm))),
    rangeLu: finite(rangeOf(shortTerm)),
  }
}

/** Mean powers of windows of `length` steps, one every `every` steps. */
function windows(powers: Float64Array, length: number, every = 1): Float64Array {
  const out = new Float64Array(Math.max(0, Math.floor((powers.length - length) / every) + 1))
  for (let index = 0; index < out.length; index++) {
    let sum = 0
    for (let step = 0; step < length; step++) sum += powers[index * every + step]!
    out[index] = sum / length
  }
  return out
}
const highest = (powers: Float64Array): number => powers.reduce((most, power) => Math.max(most, power), 0)

/** Powers above the absolute gate, and above the relative gate `relativeLu` from their mean. */
function gated(powers: Float64Array, relativeLu: number): Float64Array {
  const heard = powers.filter((power) => lufsOf(power) > absoluteGateLufs)
  const limit = lufsOf(meanOf(heard)) + relativeLu
  return heard.filter((power) => lufsOf(power) > limit)
}
const meanOf = (powers: Float64Array): number => powers.reduce((sum, power) => sum + power, 0) / powers.length
const gatedMean = (powers: Float64Array, relativeLu: number): number => meanOf(gated(powers, relativeLu))

/** Between the 10th and the 95th of a hundred of the short-term levels over -20 LU (EBU Tech 3342). */
function rangeOf(shortTerm: Float64Array): number {
  const heard = gated(shortTerm, -20).sort()
  if (heard.length === 0) return NaN
  const at = (share: number) => lufsOf(heard[Math.round(share * (heard.length - 1))]!)
  return at(0.95) - at(0.1)
}
