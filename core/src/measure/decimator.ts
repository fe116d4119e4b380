/** Taps for each sample that is kept: what folds back into the lower half lies some 60 dB down. */
const tapsPerStep = 6

/** Lets through what a lower rate can carry, and keeps one sample in so many (a windowed sinc, worked out where it is kept). */
export class Decimator {
  private readonly taps: Float64Array
  /** What is still needed of earlier blocks, and the block. */
  private held = new Float32Array(0)
  private rest: number

  constructor(readonly factor: number) {
    const length = factor * tapsPerStep
    this.taps = Float64Array.from({ length }, (_, index) => {
      const x = (index - (length - 1) / 2) / factor
      const at = 0.85 * Math.PI * x
      const sinc = Math.abs(at) < 1e-9 ? 1 : Math.sin(at) / at
      const turn = (2 * Math.PI * (index + 0.5)) / length
      // Blackman
      return sinc * (0.42 - 0.5 * Math.cos(turn) + 0.08 * Math.cos(2 * turn))
    })
    const sum = this.taps.reduce((all, tap) => all + tap, 0)
    for (let index = 0; index < length; index++) this.taps[index]! /= sum
    this.rest = length - factor
    this.held = new Float32Array(this.rest)
  }

  /** What is kept of these samples, in order. */
  push(samples: Float32Array): Float32Array {
    const { factor, taps, rest } = this
    if (factor === 1) return samples
    const all = new Float32Array(rest + samples.length)
    all.set(this.held)
    all.set(samples, rest)
    const length = taps.length
    const half = length / 2
    const count = Math.max(0, Math.floor((all.length - length) / factor) + 1)
    const out = new Float32Array(count)
    for (let index = 0, from = 0; index < count; index++, from += factor) {
      let sum = 0
      // both halves of the taps are alike
      for (let tap = 0, back = from + length - 1; tap < half; tap++, back--)
        sum += taps[tap]! * (all[from + tap]! + all[back]!)
      out[index] = sum
    }
    this.held = all.slice(count * factor)
    this.rest = this.held.length
    return out
  }
}
