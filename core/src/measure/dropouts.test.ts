import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { DropoutMeter } from './dropouts'

const rateHz = 48_000
const lengthS = 4
/** Noise of a radio, a word in it, and softer noise of what comes after. */
function dropoutsIn(gone: readonly [fromS: number, toS: number][], afterDb = -40) {
  const next = normal(random(5))
  const samples = Float32Array.from({ length: lengthS * rateHz }, (_, index) => {
    const time = index / rateHz
    const word = time > 1 && time < 2 ? 0.3 * Math.sin(2 * Math.PI * 300 * time) : 0
    const isGone = gone.some(([fromS, toS]) => time >= fromS && time < toS)
    return (isGone ? 0 : word + 0.001 * next()) + 0.001 * 10 ** (afterDb / 20) * next()
  })
  const meter = new DropoutMeter(rateHz)
  for (let from = 0; from < samples.length; from += 4099) meter.push(samples.subarray(from, from + 4099))
  return meter.finish()
}

describe('dropouts', () => {
  it.each([
    [0.5, 0.503],
    [1.4, 1.44],
    [2.5, 2.9],
  ])('from %s to %s s are found to the millisecond, in a pause and in a word', (fromS, toS) => {
    const { ranges, confidence } = dropoutsIn([[fromS, toS]])
    expect(ranges).toHaveLength(1)
    expect(Math.abs(ranges[0]!.fromS - fromS)).toBeLessThan(0.0025)
    expect(Math.abs(ranges[0]!.toS - toS)).toBeLessThan(0.0025)
    expect(confidence).toBeGreaterThan(0.9)
  })
  it('are surer the deeper they are, and none where as much noise goes on', () => {
    const [deep, shallow] = [dropoutsIn([[2.5, 2.6]], -40), dropoutsIn([[2.5, 2.6]], -15)]
    expect(shallow.ranges).toHaveLength(1)
    expect(deep.confidence).toBeGreaterThan(shallow.confidence)
    expect(dropoutsIn([[2.5, 2.6]], 0).ranges).toEqual([])
  })
  it('are none in a top that is cut flat for milliseconds, with noise of what comes after', () => {
    const next = normal(random(5))
    const meter = new DropoutMeter(rateHz)
    const samples = Float32Array.from({ length: lengthS * rateHz }, (_, index) => {
      const time = index / rateHz
      const word = 2 * Math.sin(2 * Math.PI * 90 * time) * Math.sin(Math.PI * time) ** 2
      return Math.max(-0.1, Math.min(0.1, word + 0.01 * next())) + 0.00002 * next()
    })
    meter.push(samples)
    expect(meter.finish().ranges).toEqual([])
  })
  it('are none where nothing stops', () => {
    expect(dropoutsIn([])).toEqual({ ranges: [], confidence: 0 })
  })
})
