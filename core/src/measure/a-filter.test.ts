import { describe, expect, it } from 'vitest'
import { amplitudeDb, powerDb } from '../units'
import { AFilter } from './a-filter'

/** IEC 61672-1, table 3: frequency in Hz, weighting in dB, and what class 1 allows above and below. */
const table = [
  [31.5, -39.4, 1.5, 1.5],
  [63, -26.2, 1, 1],
  [125, -16.1, 1, 1],
  [250, -8.6, 1, 1],
  [500, -3.2, 1, 1],
  [1000, 0, 0.7, 0.7],
  [2000, 1.2, 1, 1],
  [4000, 1, 1, 1],
  [8000, -1.1, 1.5, 2.5],
  [12_500, -4.3, 2, 5],
  [16_000, -6.6, 2.5, 16],
] as const

describe.each([44_100, 48_000, 96_000])('A-weighting of samples at %i Hz', (rateHz) => {
  it.each(table)('at %s Hz is %s dB, by response and on a tone', (hz, weightDb, above, below) => {
    const filter = new AFilter(rateHz)
    const responseDb = amplitudeDb(filter.response(hz, rateHz))
    expect(responseDb - weightDb).toBeLessThan(above)
    expect(weightDb - responseDb).toBeLessThan(below)
    const tone = Float32Array.from({ length: rateHz / 2 }, (_, n) =>
      Math.sin((2 * Math.PI * hz * n) / rateHz),
    )
    // what it does at the beginning is left out
    const settled = rateHz / 4
    filter.power(tone, 0, settled)
    const meanDb = powerDb(filter.power(tone, settled, tone.length) / (tone.length - settled)) + 3.01
    expect(Math.abs(meanDb - responseDb)).toBeLessThan(0.1)
  })
  it('gives sample by sample what it gives at once', () => {
    const samples = Float32Array.from({ length: 300 }, (_, n) => Math.sin(n * n))
    const [atOnce, single] = [new AFilter(rateHz), new AFilter(rateHz)]
    const sum = samples.reduce((all, sample) => all + single.next(sample) ** 2, 0)
    expect(atOnce.power(samples, 0, 100) + atOnce.power(samples, 100, 300)).toBeCloseTo(sum, 9)
  })
})
