/** Fourier transform in place, of a length that is a power of two (Cooley and Tukey). */
export function transform(re: Float64Array, im: Float64Array): void {
  const size = re.length
  for (let index = 1, mirrored = 0; index < size; index++) {
    let bit = size >> 1
    for (; mirrored & bit; bit >>= 1) mirrored ^= bit
    mirrored ^= bit
    if (index < mirrored) {
      ;[re[index], re[mirrored]] = [re[mirrored]!, re[index]!]
      ;[im[index], im[mirrored]] = [im[mirrored]!, im[index]!]
    }
  }
  for (let length = 2; length <= size; length <<= 1) {
    const angle = (-2 * Math.PI) / length
    const half = length >> 1
    for (let k = 0; k < half; k++) {
      const [wr, wi] = [Math.cos(angle * k), Math.sin(angle * k)]
      for (let start = k; start < size; start += length) {
        const other = start + half
        const tr = re[other]! * wr - im[other]! * wi
        const ti = re[other]! * wi + im[other]! * wr
        re[other] = re[start]! - tr
        im[other] = im[start]! - ti
        re[start]! += tr
        im[start]! += ti
      }
    }
  }
}

/**
 * Product of one series' transform and the conjugate of another's: its inverse transform is their correlation.
 * Both are padded with zeros to `size`, a power of two.
 */
export function crossSpectrum(
  one: ArrayLike<number>,
  other: ArrayLike<number>,
  size: number,
): { re: Float64Array; im: Float64Array } {
  // one transform for both: the first as real part, the second as imaginary
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  re.set(one)
  im.set(other)
  transform(re, im)
  const cross = { re: new Float64Array(size), im: new Float64Array(size) }
  for (let k = 0; k < size; k++) {
    const mirror = (size - k) % size
    const [ar, ai] = [(re[k]! + re[mirror]!) / 2, (im[k]! - im[mirror]!) / 2]
    const [br, bi] = [(im[k]! + im[mirror]!) / 2, (re[mirror]! - re[k]!) / 2]
    cross.re[k] = ar * br + ai * bi
    cross.im[k] = ai * br - ar * bi
  }
  return cross
}

/** Sums of products of the two series of a cross spectrum, at any lag of the second. */
export function correlationOf({ re, im }: { re: Float64Array; im: Float64Array }): (lag: number) => number {
  const size = re.length
  // inverse: the transform of the conjugate; a real result needs no further conjugate
  const [outRe, outIm] = [re.slice(), im.map((each) => -each)]
  transform(outRe, outIm)
  return (lag) => outRe[(size + (lag % size)) % size]! / size
}
