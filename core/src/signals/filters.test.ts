import { describe, expect, it } from 'vitest'
import { FilterChain, filtered, highPass, lowPass, resonance, type SecondOrder } from './filters'
import { tone } from './sounds'

const rateHz = 48_000
const gainDb = (hz: number, ...filters: SecondOrder[]) => {
  const out = filtered(tone(hz, 0, 1, rateHz), ...filters).subarray(rateHz / 2)
  return 10 * Math.log10((2 * out.reduce((sum, sample) => sum + sample * sample, 0)) / out.length)
}

describe('filters of second order', () => {
  it('are 3 dB down at their corner, and fall by 12 dB an octave beyond', () => {
    expect(gainDb(1000, lowPass(1000, rateHz))).toBeCloseTo(-3.01, 1)
    expect(gainDb(1000, highPass(1000, rateHz))).toBeCloseTo(-3.01, 1)
    expect(gainDb(4000, lowPass(500, rateHz)) - gainDb(2000, lowPass(500, rateHz))).toBeCloseTo(-12, 0)
    expect(gainDb(100, highPass(800, rateHz)) - gainDb(200, highPass(800, rateHz))).toBeCloseTo(-12, 0)
  })
  it('let a resonance through at its middle, and 3 dB less at the edges of its band', () => {
    const middle = resonance(1000, 100, rateHz)
    expect(gainDb(1000, middle)).toBeCloseTo(0, 1)
    expect(gainDb(1051.2, middle)).toBeCloseTo(-3.01, 0)
  })
  it('do the same in blocks', () => {
    const chain = new FilterChain(lowPass(700, rateHz), highPass(90, rateHz))
    const samples = tone(300, -6, 0.05, rateHz)
    const blocks: number[] = []
    for (let from = 0; from < samples.length; from += 77)
      blocks.push(...chain.run(samples.slice(from, from + 77)))
    expect(blocks).toEqual([...filtered(samples.slice(), lowPass(700, rateHz), highPass(90, rateHz))])
  })
})
