import { amplitudeDb, powerDb } from '../units'

/**
 * Sensitivity of a first-order pattern `a + (1 - a) cos(angle)` relative to its axis, as a factor with sign.
 * `a`: 1 omni, 0.5 cardioid, 0 figure-eight.
 */
export const patternFactor = (a: number, angleDeg: number): number =>
  a + (1 - a) * Math.cos((angleDeg * Math.PI) / 180)

/** The same in dB, never below -40 dB: real nulls are no deeper. */
export const patternDb = (a: number, angleDeg: number): number =>
  Math.max(-40, amplitudeDb(Math.abs(patternFactor(a, angleDeg))))

/**
 * Random-energy efficiency: sound from everywhere taken in, relative to an omni of the same axial sensitivity.
 * The mean of the squared pattern over the sphere; Simpson's rule over cos(angle), exact for a quadratic.
 */
export function randomEnergyEfficiency(a: number): number {
  const square = (cosine: number) => (a + (1 - a) * cosine) ** 2
  return (square(-1) + 4 * square(0) + square(1)) / 6
}

/** Directivity index in dB: 0 omni, 4.8 cardioid, 6 hypercardioid. */
export const directivityIndexDb = (a: number): number => -powerDb(randomEnergyEfficiency(a))

const named: [number, string][] = [
  [1, 'omni'],
  [0.7, 'wide cardioid'],
  [0.5, 'cardioid'],
  [0.37, 'supercardioid'],
  [0.25, 'hypercardioid'],
  [0, 'figure-eight'],
]

/** The usual name of the pattern nearest to `a`. */
export const patternName = (a: number): string =>
  named.reduce((best, each) => (Math.abs(each[0] - a) < Math.abs(best[0] - a) ? each : best))[1]
