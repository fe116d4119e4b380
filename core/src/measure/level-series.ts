import { powerDb } from '../units'

const lowestDb = -160

/** Levels in equal steps of time, in hundredths of a dB: two bytes each, so that hours fit. */
export class LevelSeries {
  private values = new Int16Array(1024)
  private count = 0

  /** @param power mean square of the step */
  add(power: number): void {
    if (this.count === this.values.length) {
      const larger = new Int16Array(2 * this.count)
      larger.set(this.values)
      this.values = larger
    }
    this.values[this.count++] = Math.round(100 * Math.max(lowestDb, powerDb(power)))
  }

  get length(): number {
    return this.count
  }
  /** All of them, dB. */
  levels(): Float32Array {
    // of hours these are many: `from` would make a list of them first
    const out = new Float32Array(this.values.subarray(0, this.count))
    for (let index = 0; index < out.length; index++) out[index]! /= 100
    return out
  }
}

/** The quantile of a list at a share, 0 to 1; NaN for an empty one. */
export function quantile(values: ArrayLike<number>, share: number): number {
  const sorted = new Float64Array(values).sort()
  return sorted.length ? sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]! : NaN
}

/** Mean powers of consecutive groups of steps, dB. */
export function coarser(levels: Float32Array, steps: number): Float32Array {
  const out = new Float32Array(Math.floor(levels.length / steps))
  for (let index = 0; index < out.length; index++) {
    let power = 0
    for (let step = 0; step < steps; step++) power += 10 ** (levels[index * steps + step]! / 10)
    out[index] = powerDb(power / steps)
  }
  return out
}
