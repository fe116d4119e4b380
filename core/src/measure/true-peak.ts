import { amplitudeDb } from '../units'

/** Samples that one value between two samples is made from. */
const tapsPerPhase = 24
/** The last tap before the value. */
const middle = tapsPerPhase / 2 - 1
/** Samples that are passed over together where they are too small. */
const stretch = 64

/**
 * True peak to ITU-R BS.1770-5, Annex 2: the highest value that the wave between the samples reaches, at four times the
 * rate (twice from 96 kHz up). Only where no bound shows that the peak so far cannot be passed is anything worked out.
 */
export class TruePeak {
  private readonly phases: Float64Array[]
  /** No value between samples is larger than the largest sample times this. */
  private readonly bound: number
  /** What the two samples beside it can give of that. */
  private readonly near: number
  private readonly held = new Float32Array(4096)
  private filled = 0
  private peak = 0

  constructor(rateHz: number) {
    const factor = rateHz < 96_000 ? 4 : 2
    this.phases = Array.from({ length: factor - 1 }, (_, phase) => tapsBetween((phase + 1) / factor))
    this.near = Math.max(...this.phases.map((taps) => Math.abs(taps[middle]!) + Math.abs(taps[middle + 1]!)))
    this.bound = Math.max(...this.phases.map((taps) => taps.reduce((sum, tap) => sum + Math.abs(tap), 0)))
  }

  push(samples: Float32Array): void {
    for (let from = 0; from < samples.length;) {
      const count = Math.min(samples.length - from, this.held.length - this.filled)
      this.held.set(samples.subarray(from, from + count), this.filled)
      this.filled += count
      from += count
      if (this.filled === this.held.length) this.examine()
    }
  }

  /** The peak in dB re full scale; -Infinity for silence. */
  finish(): number {
    this.held.fill(0, this.filled)
    this.filled = Math.min(this.held.length, this.filled + tapsPerPhase)
    this.examine()
    return amplitudeDb(this.peak)
  }

  private examine(): void {
    const { held, filled } = this
    let highest = 0
    for (let index = 0; index < filled; index++) {
      const size = Math.abs(held[index]!)
      if (size > highest) highest = size
    }
    if (highest > this.peak) this.peak = highest
    if (highest * this.bound > this.peak) this.between()
    // the last samples are the first of the next look
    const keep = Math.min(filled, tapsPerPhase - 1)
    held.copyWithin(0, filled - keep, filled)
    this.filled = keep
  }

  /** Goes through the stretches that can hold a new peak. */
  private between(): void {
    const { held, filled, phases } = this
    for (let from = 0; from + tapsPerPhase <= filled; from += stretch) {
      const to = Math.min(filled - tapsPerPhase + 1, from + stretch)
      let highest = 0
      for (let index = from; index < to + tapsPerPhase - 1; index++) {
        const size = Math.abs(held[index]!)
        if (size > highest) highest = size
      }
      if (highest * this.bound <= this.peak) continue
      const far = highest * (this.bound - this.near)
      for (let at = from; at < to; at++) {
        const beside = Math.max(Math.abs(held[at + middle]!), Math.abs(held[at + middle + 1]!))
        if (beside * this.near + far <= this.peak) continue
        for (const taps of phases) {
          let sum = 0
          for (let tap = 0; tap < tapsPerPhase; tap++) sum += taps[tap]! * held[at + tap]!
          const size = Math.abs(sum)
          if (size > this.peak) this.peak = size
        }
      }
    }
  }
}

/** A windowed sinc for a value so far after the middle sample. */
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
