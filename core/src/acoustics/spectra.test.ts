import { describe, expect, it } from 'vitest'
import { aWeightingDb } from '../units'
import { alongLog, colourLeft, noiseColours, voiceCoherence, voiceWeights } from './index'

/** Powers of a class of noise behind a low-cut, by plain sums over every hertz. */
function byHertz(spectrum: keyof typeof noiseColours, cornersHz: readonly number[]) {
  const { highPassHz, lowPassHz } = noiseColours[spectrum]
  const sums = { whole: 0, weighted: 0, plain: 0 }
  for (let hz = 5.25; hz < 24_000; hz += 0.5) {
    const density = 1 / (1 + (highPassHz / hz) ** 2) / (1 + (hz / lowPassHz) ** 2)
    const heard = 10 ** (aWeightingDb(hz) / 10)
    // Butterworth of second order: half the power at the corner, 12 dB for each octave below
    const left = cornersHz.reduce((power, corner) => power / (1 + (corner / hz) ** 4), density)
    sums.whole += density * heard
    sums.weighted += left * heard
    sums.plain += left
  }
  return { weighted: sums.weighted / sums.whole, plain: sums.plain / sums.whole }
}

describe('a class of noise behind low-cuts', () => {
  it.each([
    ['even', []],
    ['traffic', [80]],
    ['ventilation', [120, 80]],
    ['wind', [150]],
  ] as const)('%s behind %j is what a sum over every hertz says', (spectrum, corners) => {
    const expected = byHertz(spectrum, corners)
    const found = colourLeft(spectrum, corners)
    expect(found.weighted / expected.weighted).toBeCloseTo(1, 3)
    expect(found.plain / expected.plain).toBeCloseTo(1, 2)
    // the second time it is remembered, each row of low-cuts by itself
    expect(colourLeft(spectrum, corners)).toEqual(found)
    expect(colourLeft(spectrum, [...corners, 300]).plain).toBeLessThan(found.plain)
  })
})

describe('two ways of one voice', () => {
  it('are alike at once', () => {
    expect(voiceCoherence(0)).toBe(1)
  })
  it.each([0.0001, 0.0005, 0.002, 0.02])(
    'are as alike after %f s as the mean of the cosine over its bands',
    (delayS) => {
      const mean = (hz: number) => {
        const [low, high] = [hz * 2 ** (-1 / 6), hz * 2 ** (1 / 6)]
        const steps = 4000
        let sum = 0
        for (let step = 0; step < steps; step++)
          sum += Math.cos(2 * Math.PI * (low + ((step + 0.5) / steps) * (high - low)) * delayS)
        return sum / steps
      }
      const expected = voiceWeights.reduce((sum, { hz, share }) => sum + share * mean(hz), 0)
      expect(voiceCoherence(delayS)).toBeCloseTo(expected, 4)
    },
  )
})

describe('a table over frequency', () => {
  it('runs straight over the logarithm, and on at its ends', () => {
    const points = [
      [100, 1],
      [400, 3],
    ] as const
    expect([50, 100, 200, 400, 800].map((hz) => alongLog(points, hz))).toEqual([1, 1, 2, 3, 3])
  })
})
