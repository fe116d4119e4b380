import type { Directivity } from '../model'
import { amplitudeDb, powerDb, powerFromDb } from '../units'
import { alongLog, type NoiseSpectrum, noiseWeights, voiceWeights, type Weight } from './spectra'

/**
 * Sensitivity of a first-order pattern `a + (1 - a) cos(angle)` relative to its axis, as a factor with sign.
 * `a`: 1 omni, 0.5 cardioid, 0 figure-eight.
 */
export const patternFactor = (a: number, angleDeg: number): number =>
  a + (1 - a) * Math.cos((angleDeg * Math.PI) / 180)

type Table = Exclude<Directivity, number>

/** Level of a table at a frequency and an angle, dB re its axis. */
function tableDb({ anglesDeg, bands }: Table, hz: number, angleDeg: number): number {
  const after = Math.max(
    1,
    anglesDeg.findIndex((each) => each >= angleDeg),
  )
  const [low, high] = [anglesDeg[after - 1]!, anglesDeg[after]!]
  const along = (angleDeg - low) / (high - low)
  return alongLog(
    bands.map((band) => [band.hz, band.db[after - 1]! + along * (band.db[after]! - band.db[after - 1]!)]),
    hz,
  )
}

/** Power of a sound, by its bands, that a table lets in from an angle, relative to the axis. */
const tablePower = (table: Table, weights: readonly Weight[], angleDeg: number): number =>
  weights.reduce((sum, { hz, share }) => sum + share * powerFromDb(tableDb(table, hz, angleDeg)), 0)

/** A voice from an angle re the axis, dB(A), never below -40 dB: real nulls are no deeper. */
export const patternDb = (pattern: Directivity, angleDeg: number): number =>
  Math.max(
    -40,
    typeof pattern === 'number'
      ? amplitudeDb(Math.abs(patternFactor(pattern, angleDeg)))
      : powerDb(tablePower(pattern, voiceWeights, angleDeg)),
  )

/**
 * Random-energy efficiency: sound from everywhere taken in, relative to an omni of the same axial sensitivity.
 * The mean of the squared pattern over the sphere: for the first order by Simpson's rule over cos(angle), exact for a
 * quadratic; for a table in steps of two degrees, with the sound's A-weighted spectrum, a noise's or the voice's.
 */
export function randomEnergyEfficiency(
  pattern: Directivity,
  spectrum: NoiseSpectrum | 'voice' = 'even',
): number {
  if (typeof pattern === 'number') {
    const square = (cosine: number) => (pattern + (1 - pattern) * cosine) ** 2
    return (square(-1) + 4 * square(0) + square(1)) / 6
  }
  const weights = spectrum === 'voice' ? voiceWeights : noiseWeights[spectrum]
  let sum = 0
  for (let angleDeg = 1; angleDeg < 180; angleDeg += 2) {
    const ring = (Math.cos(((angleDeg - 1) * Math.PI) / 180) - Math.cos(((angleDeg + 1) * Math.PI) / 180)) / 2
    sum += ring * tablePower(pattern, weights, angleDeg)
  }
  return sum
}

/** Directivity index in dB: 0 omni, 4.8 cardioid, 6 hypercardioid. */
export const directivityIndexDb = (pattern: Directivity): number => -powerDb(randomEnergyEfficiency(pattern))

const named: [number, string][] = [
  [1, 'omni'],
  [0.7, 'wide cardioid'],
  [0.5, 'cardioid'],
  [0.37, 'supercardioid'],
  [0.25, 'hypercardioid'],
  [0, 'figure-eight'],
]

/** The usual name of the pattern nearest to `a`, or of a table. */
export const patternName = (pattern: Directivity): string =>
  typeof pattern === 'number'
    ? named.reduce((best, each) =>
        Math.abs(each[0] - pattern) < Math.abs(best[0] - pattern) ? each : best,
      )[1]
    : 'interference tube'
