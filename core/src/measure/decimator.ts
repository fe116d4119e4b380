/** Filter taps for each output sample: aliases in the lower half lie some 60 dB down. */
const tapsPerStep = 6

/** Outputs computed side by side, so that no sum has to wait for its own last value. */
const together = 4

/** Low-pass filters and keeps one sample in `factor` (a windowed sinc, computed only for the samples kept). */
export class Decimator {
  private readonly taps: Float64Array
  /** The end of earlier blocks that is still needed, then the block. */
  private held: Float64Array
  private filled: number

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
    this.filled = length - factor
    this.held = new Float64Array(this.filled)
  }

  /** The samples kept, in order. */
  push(samples: Float32Array): Float32Array {
    const { factor, taps } = this
    if (factor === 1) return samples
    const total = this.hold(samples)
    const count = Math.max(0, Math.floor((total - taps.length) / factor) + 1)
    const out = new Float32Array(count)
    this.convolve(out)
    this.held.copyWithin(0, count * factor, total)
    this.filled = total - count * factor
    return out
  }

  private hold(samples: Float32Array): number {
    const total = this.filled + samples.length
    if (total + together * this.factor > this.held.length) {
      const larger = new Float64Array(total + together * this.factor)
      larger.set(this.held.subarray(0, this.filled))
      this.held = larger
    }
    this.held.set(samples, this.filled)
    return total
  }

  private convolve(out: Float32Array): void {
    const { held, taps, factor } = this
    const length = taps.length
    const half = length / 2
    for (let index = 0; index < out.length; index += together) {
      const from = index * factor
      let one = 0
      let two = 0
      let three = 0
      let four = 0
      // Both halves of the taps are alike; past the end of `out` nothing is kept. With `| 0` an index is known to be a
      // whole number, which would otherwise be looked at in every step.
      for (let tap = 0; tap < half; tap++) {
        const weight = taps[tap]!
        const at = (from + tap) | 0
        const back = (from + length - 1 - tap) | 0
        one += weight * (held[at]! + held[back]!)
        two += weight * (held[(at + factor) | 0]! + held[(back + factor) | 0]!)
        three += weight * (held[(at + 2 * factor) | 0]! + held[(back + 2 * factor) | 0]!)
        four += weight * (held[(at + 3 * factor) | 0]! + held[(back + 3 * factor) | 0]!)
      }
      out[index] = one
      out[index + 1] = two
      out[index + 2] = three
      out[index + 3] = four
    }
  }
}
