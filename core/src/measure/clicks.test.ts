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
