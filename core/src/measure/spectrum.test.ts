import { describe, expect, it } from 'vitest'
import { amplifierNoise } from '../signals'
import { linesOf, thirdsOf } from './spectrum'

const rateHz = 48_000
const sine = (hz: number, peak: number) =>
  Float32Array.from(
    { length: 4 * rateHz },
    (_, index) => peak * Math.sin((2 * Math.PI * hz * index) / rateHz),
  )

describe('a spectrum', () => {
  it.each([
    [50, -20],
    [997, -6],
    [7400, -40],
  ])('holds a sine of %i Hz at its level, in its third of an octave', (hz, levelDbfs) => {
    const bands = thirdsOf(sine(hz, 10 ** (levelDbfs / 20)), rateHz)
    const band = bands.find((each) => hz > each.hz / 2 ** (1 / 6) && hz <= each.hz * 2 ** (1 / 6))!
    expect(Math.abs(band.levelDbfs - levelDbfs)).toBeLessThan(0.5)
    expect(bands.filter((each) => each.levelDbfs > levelDbfs - 8)).toHaveLength(1)
  })
  it('rises by 3 dB an octave for white noise, a dB a third, and sums to its level', () => {
    const noise = amplifierNoise({ lengthS: 10, rateHz, seed: 3, levelDbfs: -30 })
    const bands = thirdsOf(noise, rateHz).filter(({ hz }) => hz > 100)
    const slope = (bands.at(-1)!.levelDbfs - bands[0]!.levelDbfs) / (bands.length - 1)
    expect(Math.abs(slope - 1)).toBeLessThan(0.1)
    const all = thirdsOf(noise, rateHz).reduce((sum, { levelDbfs }) => sum + 10 ** (levelDbfs / 10), 0)
    const squares = noise.reduce((sum, sample) => sum + sample * sample, 0) / noise.length
    // all bands together reach to 22.4 kHz of 24
    expect(Math.abs(10 * Math.log10(all / (2 * squares)))).toBeLessThan(0.5)
  })
  it('shows lines of hum apart from each other, at their levels', () => {
    const hum = sine(50, 0.01)
    sine(150, 0.004).forEach((sample, index) => (hum[index]! += sample))
    const lines = linesOf(hum, rateHz, 400)
    const near = (hz: number) =>
      lines.reduce((best, each) => (Math.abs(each.hz - hz) < Math.abs(best.hz - hz) ? each : best))
    expect(Math.abs(near(50).levelDbfs + 40)).toBeLessThan(1.6)
    expect(Math.abs(near(150).levelDbfs + 48)).toBeLessThan(1.6)
    expect(near(100).levelDbfs).toBeLessThan(-80)
  })
})
