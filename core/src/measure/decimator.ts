/** Taps for each sample that is kept: steep enough that what folds back lies 70 dB down in the lower 70 %. */
const tapsPerStep = 12

/** Lets through what a lower rate can carry, and keeps one sample in so many (a windowed sinc, worked out where it is kept). */
export class Decimator {
  private readonly taps: Float64Array
  private readonly held: Float64Array
  private count = 0
  private next: number

  constructor(readonly factor: number) {
    const length = factor * tapsPerStep
    this.taps = new Float64Array(length)
    this.held = new Float64Array(2 * length)
    this.next = length
    let sum = 0
    for (let index = 0; index < length; index++) {
      const x = (index - (length - 1) / 2) / factor
      const at = (0.9 * x * Math.PI) as number
      const sinc = Math.abs(at) < 1e-9 ? 1 : Math.sin(at) / at
      const turn = (2 * Math.PI * (index + 0.5)) / length
      // Blackman and Harris
      const window = 0.35875 - 0.48829 * Math.cos(turn) + 0.14128 * Math.cos(2 * turn) - 0.01168 * Math.cos(3 * turn)
      this.taps[index] = sinc * window
      sum += this.taps[index]!
    }
    for (let index = 0; index < length; index++) this.taps[index]! /= sum
    if (factor === 1) this.taps.fill(0)
  }

  /** What is kept of these samples, in order. */
  push(samples: Float32Array): Float32Array {
    const { factor, taps, held } = this
    if (factor === 1) return samples
    const length = taps.length
    const out = new Float32Array(Math.floor((this.count + samples.length) / factor))
    let written = 0
    for (let index = 0; index < samples.length; index++) {
      if (this.next === held.length) {
        held.copyWithin(0, length)
        this.next = length
      }
      held[this.next++] = samples[index]!
      if (++this.count < factor) continue
      this.count = 0
      let sum = 0
      const from = this.next - length
      for (let tap = 0; tap < length; tap++) sum += taps[tap]! * held[from + tap]!
      out[written++] = sum
    }
    return out
  }
}
