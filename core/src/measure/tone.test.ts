import { describe, expect, it } from 'vitest'
import { noise, tone } from '../signals'
import { amplitudeFromDb } from '../units'
import { toneIn } from './tone'

const rateHz = 48_000
const excerpts = (samples: Float32Array) =>
  [0, 1, 2].map((index) => ({
    frame: index * 8192,
    channels: [samples.subarray(index * 8192, (index + 1) * 8192)],
    size: 1,
  }))

describe('a test tone', () => {
  it.each([
    [100, -20],
    [997, -12],
    [5013, -40],
  ])('of %i Hz at %i dBFS is measured to a hertz and a tenth of a dB', (hz, levelDbfs) => {
    const found = toneIn(excerpts(tone(hz, levelDbfs, 1, rateHz)), 0, rateHz)
    expect(Math.abs(found!.hz - hz)).toBeLessThan(1)
    expect(Math.abs(found!.levelDbfs - levelDbfs)).toBeLessThan(0.1)
    expect(found!.distortionDb).toBeLessThan(-55)
  })
  it('has its harmonics measured', () => {
    const samples = tone(1000, -10, 1, rateHz).map(
      (sample, index) => sample + amplitudeFromDb(-40) * Math.sin((2 * Math.PI * 3000 * index) / rateHz),
    )
    expect(toneIn(excerpts(samples), 0, rateHz)!.distortionDb).toBeCloseTo(-30, 0)
  })
  it('is known from two excerpts, and not from one', () => {
    const all = excerpts(tone(1000, -20, 1, rateHz))
    expect(toneIn(all.slice(0, 2), 0, rateHz)!.hz).toBeCloseTo(1000, 0)
    expect(toneIn(all.slice(0, 1), 0, rateHz)).toBeUndefined()
  })
  it('is none that moves, and noise is none', () => {
    const glide = Float32Array.from(
      { length: rateHz },
      (_, index) => 0.1 * Math.sin(index * (0.05 + index * 4e-6)),
    )
    expect(toneIn(excerpts(glide), 0, rateHz)).toBeUndefined()
    expect(toneIn(excerpts(noise(-20, 1, rateHz, 1)), 0, rateHz)).toBeUndefined()
  })
})
