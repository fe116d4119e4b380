import { describe, expect, it } from 'vitest'
import { tone } from '../signals'
import { amplitudeDb } from '../units'
import { Decimator } from './decimator'

const rateHz = 48_000
/** Level of a tone after it, in dB over what it was. */
function gainDb(hz: number, factor: number): number {
  const kept = new Decimator(factor).push(tone(hz, -6, 1, rateHz)).subarray(100)
  return (
    amplitudeDb(Math.sqrt((2 * kept.reduce((sum, sample) => sum + sample * sample, 0)) / kept.length)) + 6
  )
}

describe('a lower rate', () => {
  it('keeps one sample in so many, whatever the blocks', () => {
    const samples = tone(500, -6, 0.1, rateHz)
    const whole = new Decimator(4).push(samples)
    expect(whole).toHaveLength(1200)
    const pieces = new Decimator(4)
    const parts: number[] = []
    for (let from = 0; from < samples.length; from += 7)
      parts.push(...pieces.push(samples.subarray(from, from + 7)))
    expect(parts).toEqual([...whole])
  })
  it('passes the lower half of what it can carry', () => {
    for (const hz of [50, 1000, 2500]) expect(Math.abs(gainDb(hz, 4))).toBeLessThan(0.7)
  })
  it('holds back what would fold into it', () => {
    for (const hz of [9500, 11_000, 12_500, 22_000]) expect(gainDb(hz, 4)).toBeLessThan(-45)
  })
})
