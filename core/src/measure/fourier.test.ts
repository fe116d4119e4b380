import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { correlationOf, crossSpectrum, transform } from './fourier'

const size = 64
const next = normal(random(4))
const noise = (length = size) => Float64Array.from({ length }, next)

describe('the transform', () => {
  it('is the sum that defines it', () => {
    const [re, im] = [noise(), noise()]
    const [outRe, outIm] = [re.slice(), im.slice()]
    transform(outRe, outIm)
    for (let k = 0; k < size; k++) {
      let [sumRe, sumIm] = [0, 0]
      for (let n = 0; n < size; n++) {
        const angle = (-2 * Math.PI * k * n) / size
        sumRe += re[n]! * Math.cos(angle) - im[n]! * Math.sin(angle)
        sumIm += re[n]! * Math.sin(angle) + im[n]! * Math.cos(angle)
      }
      expect(outRe[k]).toBeCloseTo(sumRe, 9)
      expect(outIm[k]).toBeCloseTo(sumIm, 9)
    }
  })
})

describe('a cross spectrum', () => {
  it('gives the products of two series at every lag', () => {
    const [one, other] = [noise(20), noise(20)]
    const at = correlationOf(crossSpectrum(one, other, size))
    for (let lag = -19; lag <= 19; lag++) {
      let sum = 0
      for (let n = 0; n < 20; n++) sum += one[n]! * (other[n - lag] ?? 0)
      expect(at(lag), `lag ${lag}`).toBeCloseTo(sum, 9)
    }
  })
})
