/** Samples in a stretch, of which the highest stands for all. */
export const stretchFrames = 64

/** Highest size in each stretch of samples: where nothing can be found, it is passed over by it. */
export function highsOf(samples: Float32Array): Float32Array {
  const highs = new Float32Array(Math.ceil(samples.length / stretchFrames))
  highestInSteps(samples, stretchFrames, highs)
  return highs
}

/**
 * Highest size in each step of `frames` samples, as many as `highest` holds. Sizes are compared as whole numbers, whose
 * order is that of the floating-point numbers with the same bits (IEEE 754), and without a branch: the processor guesses
 * wrong several times in each step where the highest so far is exceeded, and each costs as much as ten samples.
 */
export function highestInSteps(samples: Float32Array, frames: number, highest: Float32Array): void {
  const bits = new Int32Array(samples.buffer, samples.byteOffset, samples.length)
  const out = new Int32Array(highest.buffer, highest.byteOffset, highest.length)
  for (let step = 0, from = 0; step < out.length; step++, from += frames) {
    const to = Math.min(bits.length, from + frames)
    let high = 0
    for (let index = from; index < to; index++) {
      const under = (high - (bits[index]! & 0x7fffffff)) | 0
      // where it is negative, all its bits are subtracted
      high = (high - (under & (under >> 31))) | 0
    }
    out[step] = high
  }
}

/** Highest size of a stretch of samples that may begin and end anywhere, from the highs where they will do. */
export function highBetween(samples: Float32Array, highs: Float32Array, from: number, to: number): number {
  let high = 0
  for (let index = from; index < to;) {
    if (index % stretchFrames === 0 && index + stretchFrames <= to) {
      high = Math.max(high, highs[index / stretchFrames]!)
      index += stretchFrames
    } else high = Math.max(high, Math.abs(samples[index++]!))
  }
  return high
}
