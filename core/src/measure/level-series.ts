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
    return Float32Array.from(this.values.subarray(0, this.count), (value) => value / 100)
  }
}

/** A value under which so much of a list lies; NaN for an empty one. */
export function quantile(values: Iterable<number>, share: number): number {
  const sorted = Float64Array.from(values).sort()
  return sorted.length ? sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]! : NaN
}

/** Means over so many steps, one for each run of them. */
export function coarser(levels: Float32Array, steps: number): Float32Array {
  const out = new Float32Array(Math.floor(levels.length / steps))
  for (let index = 0; index < out.length; index++) {
    let power = 0
    for (let step = 0; step < steps; step++) power += 10 ** (levels[index * steps + step]! / 10)
    out[index] = powerDb(power / steps)
  }
  return out
}
