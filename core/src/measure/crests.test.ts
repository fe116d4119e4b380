import { describe, expect, it } from 'vitest'
import { CrestCounter, rangesOf } from './crests'

const rateHz = 48_000
/** Waves of one shape that sink a little, so that none is a loop. */
function waves(shape: (phase: number) => number, hz: number, size = 0.5): Float32Array {
  return Float32Array.from({ length: rateHz / 2 }, (_, n) => {
    const cycle = (hz * n) / rateHz
    return size * (1 - 1e-4 * cycle) * shape(cycle % 1)
  })
}
const sine = (phase: number) => Math.sin(2 * Math.PI * phase)
const square = (phase: number) => (phase < 0.5 ? 1 : -1)
const triangle = (phase: number) => 1 - 4 * Math.abs(((phase + 0.75) % 1) - 0.5)
function counted(samples: Float32Array, block = samples.length): CrestCounter {
  const counter = new CrestCounter(rateHz)
  for (let from = 0; from < samples.length; from += block) counter.push(samples.subarray(from, from + block))
  return counter
}

describe('crests', () => {
  it.each<[string, (phase: number) => number, number]>([
    // the time over 93 % of the height, over that above half
    ['sine', sine, Math.acos(0.93) / Math.acos(0.5)],
    ['square', square, 1],
    ['triangle', triangle, 0.07 / 0.5],
  ])('of a %s dwell at their tops as the shape says', (_, shape, dwell) => {
    const { count, dwell: found, spread } = counted(waves(shape, 110)).under(0, 3)
    expect(Math.abs(found - dwell)).toBeLessThan(0.02)
    expect(spread).toBeLessThan(0.02)
    // two half-waves a cycle over half a second; the last of each side may wait for a higher one
    expect(Math.abs(count - 110)).toBeLessThanOrEqual(4)
  })
  it('come to the same however the samples are divided', () => {
    const sound = waves((phase) => sine(phase) + 0.3 * sine(3 * phase), 143)
    const whole = counted(sound)
    for (const block of [100, 1009, 4096]) {
      const parts = counted(sound, block)
      expect(parts.under(0, 10)).toEqual(whole.under(0, 10))
      expect(parts.tops(1)).toEqual(whole.tops(1))
    }
  })
  it('stand where they are, with their height and width', () => {
    const samples = waves(sine, 100)
    const top = counted(samples).tops(0.05)[0]!
    expect(top.frame).toBe(120)
    expect(top.level).toBeCloseTo(0.5, 4)
    expect(top.isNegative).toBe(false)
    // above half of its height for a third of a cycle
    expect(Math.abs(top.width - 160)).toBeLessThanOrEqual(2)
    expect(counted(samples.map((sample) => -sample)).tops(0.05)[0]!.isNegative).toBe(true)
  })
  it('count once where a higher one follows within a pitch period', () => {
    // five half-waves of each side in every cycle, one of them the highest
    const { count } = counted(waves((phase) => 0.4 * sine(phase) + sine(5 * phase), 240, 0.3)).under(0, 15)
    expect(Math.abs(count - 240)).toBeLessThanOrEqual(4)
  })
  it('are passed over where they are quiet, or too far under the highest', () => {
    expect(counted(waves(sine, 110, 0.002)).under(0, 60).count).toBe(0)
    const both = new Float32Array(rateHz)
    both.set(waves(sine, 110, 0.5))
    both.set(waves(sine, 110, 0.08), rateHz / 2)
    const found = counted(both)
    expect(found.highestDb).toBeCloseTo(-6.02, 1)
    // -16 dB under the highest
    expect(found.under(14, 18).count).toBe(0)
  })
  it('that come again to the last bit are counted once', () => {
    const cycle = Float32Array.from({ length: 480 }, (_, n) => 0.5 * Math.sin((2 * Math.PI * n) / 480))
    const loop = new Float32Array(480 * 100)
    for (let at = 0; at < 100; at++) loop.set(cycle, 480 * at)
    expect(counted(loop).under(0, 3).count).toBeLessThanOrEqual(2)
    // a wave that is the same below as above to the last bit has not been heard before
    const half = Float32Array.from({ length: 240 }, (_, n) => 0.5 * Math.sin((Math.PI * (n + 0.5)) / 240))
    const even = new Float32Array(480 * 40)
    for (let at = 0; at < 80; at++)
      half.forEach(
        (each, n) => (even[240 * at + n] = (at % 2 ? -1 : 1) * (1 - 1e-3 * Math.floor(at / 2)) * each),
      )
    expect(counted(even).under(0, 3).count).toBeGreaterThan(75)
  })
})

describe('ranges of tops', () => {
  const top = (frame: number, level = 0.5, width = 20) => ({
    frame,
    level,
    width,
    dwell: 1,
    isNegative: false,
  })
  it('join what is within 50 ms, in order of time', () => {
    const { clipped, more } = rangesOf([top(4800), top(0), top(2000, 1), top(9600)], 'bent', rateHz, 0.9)
    expect(more).toBe(0)
    expect(clipped).toEqual([
      { fromS: 0, toS: 2010 / rateHz, levelDbfs: 0, shape: 'bent', samples: 20, confidence: 0.9 },
      expect.objectContaining({ fromS: 4790 / rateHz, toS: 4810 / rateHz, samples: 10 }),
      expect.objectContaining({ fromS: 9590 / rateHz }),
    ])
    expect(rangesOf([top(0), top(2399)], 'bent', rateHz, 1).clipped).toHaveLength(1)
    expect(rangesOf([top(0), top(2400)], 'bent', rateHz, 1).clipped).toHaveLength(2)
  })
  it('are five hundred at most; how many more there are is said', () => {
    const many = Array.from({ length: 510 }, (_, index) => top(5000 * index))
    const { clipped, more } = rangesOf(many, 'sagging', rateHz, 1)
    expect([clipped.length, more]).toEqual([500, 10])
  })
})
