/** Samples in a stretch, of which the highest stands for all. */
export const stretchFrames = 64

/** Highest size in each stretch of samples: where nothing can be found, it is passed over by it. */
export function highsOf(samples: Float32Array): Float32Array {
  const highs = new Float32Array(Math.ceil(samples.length / stretchFrames))
  for (let stretch = 0, from = 0; stretch < highs.length; stretch++, from += stretchFrames) {
    const to = Math.min(samples.length, from + stretchFrames)
    let high = 0
    for (let index = from; index < to; index++) {
      const size = Math.abs(samples[index]!)
      if (size > high) high = size
    }
    highs[stretch] = high
  }
  return highs
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
