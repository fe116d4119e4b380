import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { ClickMeter } from './clicks'

const rateHz = 48_000
const next = normal(random(3))
const noise = Float32Array.from({ length: rateHz }, () => 0.001 * next())
function clicksIn(change: (samples: Float32Array) => void) {
  const samples = noise.slice()
  change(samples)
  const meter = new ClickMeter(rateHz)
  // in odd pieces, as a file may be read
  for (let from = 0; from < samples.length; from += 1013) meter.push(samples.subarray(from, from + 1013))
  return meter.finish()
}

describe('clicks', () => {
  it('are single jumps, with their time and size', () => {
    const found = clicksIn((samples) => {
      samples[12_000]! += 0.1
      samples[36_000]! -= 0.2
    })
    expect(found).toHaveLength(2)
    expect(found[0]!.atS).toBeCloseTo(0.25, 2)
    expect(found[1]!.atS).toBeCloseTo(0.75, 2)
    // a second difference doubles a single sample
    expect(found[1]!.size).toBeCloseTo(0.2, 1)
    expect(found[1]!.ratio).toBeGreaterThan(10)
  })
  it('are one where two steps share it, and stand by the larger; two are two', () => {
    // steps of half a millisecond, 24 samples: the jumps of one sample reach over three
    for (const at of [24 * 500 - 1, 24 * 500, 24 * 500 + 1, 24 * 500 + 22]) {
      const found = clicksIn((samples) => (samples[at]! += 0.1))
      expect(found).toHaveLength(1)
      expect(Math.abs(found[0]!.atS - at / rateHz)).toBeLessThan(0.0006)
    }
    const [larger, ...others] = clicksIn((samples) => {
      samples[12_012]! += 0.05
      samples[12_036]! += 0.1
    })
    expect(others).toEqual([])
    expect(larger!.size).toBeCloseTo(0.1, 1)
    expect(larger!.atS).toBeCloseTo(12_036 / rateHz, 3)
    const [first, ...more] = clicksIn((samples) => {
      samples[12_012]! += 0.1
      samples[12_036]! += 0.05
    })
    expect(more).toEqual([])
    expect(first!.atS).toBeCloseTo(12_012 / rateHz, 3)
    // further apart than a click lasts, and nearer than what is looked at around it: each hides the other
    expect(clicksIn((samples) => [12_000, 12_300].forEach((at) => (samples[at]! += 0.1)))).toEqual([])
    expect(clicksIn((samples) => [12_000, 12_700].forEach((at) => (samples[at]! += 0.1)))).toHaveLength(2)
  })
  it('are as quiet as -66 dBFS, and 3.5 times as large as any jump around them', () => {
    const silent = (size: number, other = 0) => {
      const meter = new ClickMeter(rateHz)
      const samples = new Float32Array(4800)
      samples[2400] = size / 2
      samples[2500] = other / 2
      meter.push(samples)
      return meter.finish().length
    }
    const quietest = 10 ** (-66 / 20)
    expect([silent(1.01 * quietest), silent(0.99 * quietest)]).toEqual([1, 0])
    expect([silent(0.1, 0.1 / 3.6), silent(0.1, 0.1 / 3.4)]).toEqual([1, 0])
  })
  it('are none in noise, nor where jumps come in every pitch period', () => {
    expect(clicksIn(() => undefined)).toEqual([])
    expect(
      clicksIn((samples) => samples.forEach((_, index) => index % 400 || (samples[index]! += 0.1))),
    ).toEqual([])
  })
  it('are none where something rings on', () => {
    const ring = clicksIn((samples) => {
      for (let index = 24_000; index < rateHz; index++)
        samples[index]! += 0.3 * Math.exp((24_000 - index) / 2000) * Math.sin((index - 24_000) / 4)
    })
    expect(ring).toEqual([])
  })
})
