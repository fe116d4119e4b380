import { describe, expect, it } from 'vitest'
import { coarser, LevelSeries, quantile } from './level-series'

describe('levels in steps', () => {
  it('are kept to a hundredth of a dB, also thousands of them', () => {
    const series = new LevelSeries()
    for (let index = 0; index < 5000; index++) series.add(10 ** (-index / 1000))
    expect(series.length).toBe(5000)
    expect(series.levels()[4321]).toBeCloseTo(-43.21, 2)
    series.add(0)
    expect(series.levels()[5000]).toBe(-160)
  })
  it('are taken together as powers', () => {
    // half of the power is 3 dB less
    expect(coarser(Float32Array.from([0, -160, -20, -20]), 2)).toEqual(
      Float32Array.from([10 * Math.log10(0.5), -20]),
    )
  })
  it('have a value under which a share lies', () => {
    expect(quantile([5, 1, 3, 2, 4], 0.5)).toBe(3)
    expect(quantile([5, 1, 3, 2, 4], 1)).toBe(5)
    expect(quantile([], 0.5)).toBeNaN()
  })
})
