import { describe, expect, it } from 'vitest'
import { cases } from '../tests/form'
import { normal, random } from '../signals'
import { reverberationOf, roomNoiseOf } from './room-survey'

const rateHz = 48_000
/** A clap in a room that dies away evenly: noise under an exponential, by this test's own arithmetic. */
function clap(rt60S: number, noiseDbfs: number, seed = 1): Float32Array {
  const next = normal(random(seed))
  const atS = 1.2
  return Float32Array.from({ length: 5 * rateHz }, (_, frame) => {
    const sinceS = frame / rateHz - atS
    const tail = sinceS < 0 ? 0 : 0.25 * next() * 10 ** ((-3 * sinceS) / rt60S)
    return tail + 10 ** (noiseDbfs / 20) * next()
  })
}

describe('a clap in a room', () => {
  it('gives the reverberation time within a tenth, in dry rooms and halls, over quiet and less quiet ones', () => {
    for (const rt60S of cases([0.25, 0.5, 0.9, 1.6, 2.4], [0.25, 1.6]))
      for (const noiseDbfs of [-80, -62]) {
        const found = reverberationOf(clap(rt60S, noiseDbfs, Math.round(rt60S * 100)), rateHz)
        expect(found!.rt60S / rt60S, `${rt60S} ${noiseDbfs}`).toBeGreaterThan(0.9)
        expect(found!.rt60S / rt60S, `${rt60S} ${noiseDbfs}`).toBeLessThan(1.1)
        expect(found!.straightness).toBeGreaterThan(0.98)
      }
  })
  it('is refused where it does not stand out', () => {
    expect(reverberationOf(clap(0.5, -28), rateHz)).toBeUndefined()
    expect(reverberationOf(new Float32Array(rateHz), rateHz)).toBeUndefined()
  })
})

describe('the noise of a place', () => {
  it('has the level that was put in, and the colour that comes nearest', () => {
    const next = normal(random(9))
    const white = Float32Array.from({ length: 6 * rateHz }, () => 0.01 * next())
    // one pole at 1200 Hz by arithmetic of its own: as ventilation is coloured
    let state = 0
    const share = 1 - Math.exp((-2 * Math.PI * 1200) / rateHz)
    const low = white.map((sample) => (state += share * (sample - state)))
    expect(roomNoiseOf(white, rateHz)!.spectrum).toBe('even')
    expect(roomNoiseOf(low, rateHz)!.spectrum).toBe('ventilation')
    // white noise of 0.01 RMS is -36.99 dBFS re a sine, and 2.36 dB less when weighted up to half the rate
    expect(Math.abs(roomNoiseOf(white, rateHz)!.levelDbfsA + 39.35)).toBeLessThan(0.4)
  })
  it('is not measured in less than a second, or of silence', () => {
    expect(roomNoiseOf(new Float32Array(100), rateHz)).toBeUndefined()
    expect(roomNoiseOf(new Float32Array(3 * rateHz), rateHz)).toBeUndefined()
  })
})
