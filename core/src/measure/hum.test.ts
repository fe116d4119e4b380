import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { amplitudeFromDb } from '../units'
import { HumMeter } from './hum'

const rateHz = 2000
/** Sines of levels in dBFS over noise, for twelve seconds. */
function humIn(sines: readonly [hz: number, levelDbfs: number][], noiseRms = 1e-4) {
  const next = normal(random(2))
  const samples = Float32Array.from({ length: 12 * rateHz }, (_, index) =>
    sines.reduce(
      (sum, [hz, level]) => sum + amplitudeFromDb(level) * Math.sin((2 * Math.PI * hz * index) / rateHz + hz),
      noiseRms * next(),
    ),
  )
  const meter = new HumMeter(rateHz)
  meter.push(samples)
  return meter.finish()
}

describe('hum of the mains', () => {
  it('is the sum of its lines, at 50 and at 60 Hz, also where the mains are a little off', () => {
    for (const mainsHz of [50, 60, 49.95, 60.05]) {
      const hum = humIn([
        [mainsHz, -40],
        [2 * mainsHz, -46],
        [3 * mainsHz, -50],
      ])
      expect(hum!.mainsHz).toBe(mainsHz < 55 ? 50 : 60)
      // powers added on paper: 10 lg (1e-4 + 10^-4.6 + 1e-5) = -38.7
      expect(Math.abs(hum!.levelDbfs + 38.7)).toBeLessThan(0.3)
      expect(hum!.lines.map(({ hz }) => hz)).toEqual([1, 2, 3].map((n) => n * hum!.mainsHz))
    }
  })
  it('is none where a note lies beside it, nor where there is noise alone', () => {
    expect(humIn([[48.5, -30]])).toBeUndefined()
    expect(humIn([[98, -30]])).toBeUndefined()
    expect(humIn([], 0.01)).toBeUndefined()
  })
  it('is none without one of its first three lines', () => {
    expect(
      humIn([
        [200, -40],
        [250, -40],
      ]),
    ).toBeUndefined()
    expect(
      humIn([
        [150, -40],
        [250, -40],
      ]),
    ).toMatchObject({ mainsHz: 50 })
    expect(
      humIn([
        [250, -40],
        [350, -40],
      ]),
    ).toBeUndefined()
  })
})
