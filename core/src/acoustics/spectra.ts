import type { Brief } from '../model'
import { aWeightingDb, powerFromDb } from '../units'

export type NoiseSpectrum = Brief['noises'][number]['spectrum']

/** Corners of a one-pole high-pass and low-pass that give each class of noise its colour, Hz. A rule of thumb. */
export const noiseColours: Record<NoiseSpectrum, { highPassHz: number; lowPassHz: number }> = {
  even: { highPassHz: 20, lowPassHz: 8000 },
  traffic: { highPassHz: 40, lowPassHz: 600 },
  ventilation: { highPassHz: 60, lowPassHz: 1200 },
  wind: { highPassHz: 15, lowPassHz: 150 },
}

/** Third-octave bands that the voice and noises are weighed in, Hz. */
const bandsHz = Array.from({ length: 23 }, (_, index) => 1000 * 2 ** ((index - 12) / 3))

/** Octave spectrum levels of a voice of normal effort, dB (ANSI S3.5-1997, table 4). */
const voiceSpectrumDb: readonly (readonly [hz: number, db: number])[] = [
  [250, 34.75],
  [500, 34.27],
  [1000, 25.01],
  [2000, 17.32],
  [4000, 9.33],
  [8000, 1.13],
]

/** A band and its share of the A-weighted power of a sound. */
export interface Weight {
  hz: number
  share: number
}

function weights(density: (hz: number) => number): Weight[] {
  // the bands are all the same part of an octave: their widths go with their middles
  const powers = bandsHz.map((hz) => density(hz) * hz * powerFromDb(aWeightingDb(hz)))
  const whole = powers.reduce((sum, each) => sum + each, 0)
  return bandsHz.map((hz, index) => ({ hz, share: powers[index]! / whole }))
}

/** What the A-weighted power of a voice lies in. */
export const voiceWeights: readonly Weight[] = weights((hz) => powerFromDb(alongLog(voiceSpectrumDb, hz)))

/** What the A-weighted power of a class of noise lies in. */
export const noiseWeights = Object.fromEntries(
  Object.entries(noiseColours).map(([spectrum, { highPassHz, lowPassHz }]) => [
    spectrum,
    weights((hz) => {
      const [up, down] = [(hz / highPassHz) ** 2, (hz / lowPassHz) ** 2]
      return (up / (1 + up)) * (1 / (1 + down))
    }),
  ]),
) as unknown as Record<NoiseSpectrum, readonly Weight[]>

/** Straight between points over the logarithm of frequency; beyond the ends the last point stands. */
export function alongLog(points: readonly (readonly [hz: number, value: number])[], hz: number): number {
  const after = points.findIndex(([each]) => each >= hz)
  if (after === 0) return points[0]![1]
  if (after === -1) return points.at(-1)![1]
  const [[low, one], [high, other]] = [points[after - 1]!, points[after]!]
  return one + ((other - one) * Math.log(hz / low)) / Math.log(high / low)
}
