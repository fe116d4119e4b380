import { amplitudeDb } from '../units'
import { highsOf, stretchFrames } from './highs'

/** Samples that each interpolated value is computed from. */
const tapsPerPhase = 24
/** The last tap before the value. */
const middle = tapsPerPhase / 2 - 1
/** These taps decide most. */
const innerFrom = middle - 3
const innerTo = middle + 5
/**
 * True peak to ITU-R BS.1770-5, Annex 2: the highest value that the wave between the samples reaches, at four times the
 * rate (twice from 96 kHz up). Values are computed only where no bound rules out a new peak.
 */
export class TruePeak {
  private readonly phases: Float64Array[]
  /** No value between samples is larger than the largest sample times this. */
  private readonly bound: number
  /** Part of that due to the two nearest samples. */
  private readonly near: number
  /** Part of it due to the outer taps. */
  private readonly outer: number
  /** The last samples, whose values between lie partly in the next block. */
  private held = new Float32Array(tapsPerPhase - 1)
  private peak = 0

  constructor(rateHz: number) {
    const factor = rateHz < 96_000 ? 4 : 2
    this.phases = Array.from({ length: factor - 1 }, (_, phase) => tapsBetween((phase + 1) / factor))
    this.near = Math.max(...this.phases.map((taps) => Math.abs(taps[middle]!) + Math.abs(taps[middle + 1]!)))
    this.bound = Math.max(...this.phases.map(sizesOf))
    this.outer = Math.max(
      ...this.phases.map((taps) => sizesOf(taps) - sizesOf(taps.subarray(innerFrom, innerTo))),
    )
  }

  /** @param highs of the samples, where somebody has them already */
  push(samples: Float32Array, highs = highsOf(samples)): void {
    const { held } = this
    const joined = new Float32Array(held.length + Math.min(samples.length, held.length))
    joined.set(held)
    joined.set(samples.subarray(0, held.length), held.length)
    this.examine(joined, highsOf(joined))
    this.examine(samples, highs)
    this.held = samples.length < held.length ? joined.slice(-held.length) : samples.slice(-held.length)
  }

  /** The peak in dB re full scale; -Infinity for silence. */
  finish(): number {
    this.push(new Float32Array(tapsPerPhase))
    return amplitudeDb(this.peak)
  }

  /** Goes through the stretches that can hold a new peak. */
  private examine(samples: Float32Array, highs: Float32Array): void {
    for (const high of highs) if (high > this.peak) this.peak = high
    const last = samples.length - tapsPerPhase
    for (let stretch = 0; stretch < highs.length; stretch++) {
      const from = stretch * stretchFrames
      const high = Math.max(highs[stretch]!, highs[stretch + 1] ?? 0)
      if (high * this.bound > this.peak)
        this.between(samples, from, Math.min(last + 1, from + stretchFrames), high)
    }
  }

  private between(samples: Float32Array, from: number, to: number, high: number): void {
    const far = high * (this.bound - this.near)
    for (let at = from; at < to; at++) {
      const beside = Math.max(Math.abs(samples[at + middle]!), Math.abs(samples[at + middle + 1]!))
      if (beside * this.near + far <= this.peak) continue
      for (const taps of this.phases) {
        const inner = sumOf(taps, samples, at, innerFrom, innerTo)
        if (Math.abs(inner) + high * this.outer <= this.peak) continue
        const sum =
          inner + sumOf(taps, samples, at, 0, innerFrom) + sumOf(taps, samples, at, innerTo, tapsPerPhase)
        const size = Math.abs(sum)
        if (size > this.peak) this.peak = size
      }
    }
  }
}

function sumOf(taps: Float64Array, samples: Float32Array, at: number, from: number, to: number): number {
  let sum = 0
  for (let tap = from; tap < to; tap++) sum += taps[tap]! * samples[at + tap]!
  return sum
}
const sizesOf = (taps: Float64Array): number => taps.reduce((sum, tap) => sum + Math.abs(tap), 0)

/** A windowed sinc for a value `part` of a sample after the middle one. */
function tapsBetween(part: number): Float64Array {
  const half = tapsPerPhase / 2
  const taps = Float64Array.from({ length: tapsPerPhase }, (_, index) => {
    const x = index - (half - 1) - part
    const window = Math.cos((Math.PI * x) / (tapsPerPhase + 1))
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * window
  })
  const sum = taps.reduce((all, tap) => all + tap, 0)
  return taps.map((tap) => tap / sum)
}
