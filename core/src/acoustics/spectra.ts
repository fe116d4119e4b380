import { type Brief, lastOf } from '../model'
import { aWeightingDb, powerDb, powerFromDb } from '../units'

export type NoiseSpectrum = Brief['noises'][number]['spectrum']

/** Corners of a one-pole high-pass and low-pass that give each class of noise its colour, Hz. A rule of thumb. */
export const noiseColours: Record<NoiseSpectrum, { highPassHz: number; lowPassHz: number }> = {
  even: { highPassHz: 20, lowPassHz: 8000 },
  traffic: { highPassHz: 40, lowPassHz: 600 },
  ventilation: { highPassHz: 60, lowPassHz: 1200 },
  wind: { highPassHz: 15, lowPassHz: 150 },
}

/** Power of a class of noise at a frequency, relative to the middle of its band. */
function colourPower(spectrum: NoiseSpectrum, hz: number): number {
  const { highPassHz, lowPassHz } = noiseColours[spectrum]
  const [up, down] = [(hz / highPassHz) ** 2, (hz / lowPassHz) ** 2]
  return (up / (1 + up)) * (1 / (1 + down))
}

/** Level of a class of noise in a third of an octave, dB, relative. */
export const noiseThirdDb = (spectrum: NoiseSpectrum, hz: number): number =>
  powerDb(colourPower(spectrum, hz) * hz)

/** Power that a low-cut of second order (Butterworth) lets through. */
const lowCutPower = (cornerHz: number, hz: number): number => {
  const fourth = (hz / cornerHz) ** 4
  return fourth / (1 + fourth)
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
  // all bands are the same fraction of an octave, so their widths are proportional to their centres
  const powers = bandsHz.map((hz) => density(hz) * hz * powerFromDb(aWeightingDb(hz)))
  const whole = powers.reduce((sum, each) => sum + each, 0)
  return bandsHz.map((hz, index) => ({ hz, share: powers[index]! / whole }))
}

/** Power of a voice per hertz, relative. */
export const voiceDensity = (hz: number): number => powerFromDb(alongLog(voiceSpectrumDb, hz))

/** Distribution of a voice's A-weighted power over frequency. */
export const voiceWeights: readonly Weight[] = weights(voiceDensity)

/** Distribution of the A-weighted power of a class of noise over frequency. */
export const noiseWeights = Object.fromEntries(
  Object.keys(noiseColours).map((spectrum) => [
    spectrum,
    weights((hz) => colourPower(spectrum as NoiseSpectrum, hz)),
  ]),
) as unknown as Record<NoiseSpectrum, readonly Weight[]>

/** Straight between points over the logarithm of frequency; beyond the ends the last point is used. */
export function alongLog(points: readonly (readonly [hz: number, value: number])[], hz: number): number {
  const after = points.findIndex(([each]) => each >= hz)
  if (after === 0) return points[0]![1]
  if (after === -1) return lastOf(points)[1]
  const [[low, one], [high, other]] = [points[after - 1]!, points[after]!]
  return one + ((other - one) * Math.log(hz / low)) / Math.log(high / low)
}

/** What remains of a class of noise behind low-cuts, as powers relative to its A-weighted power without them. */
export interface ColourLeft {
  /** Under the A curve, as levels are stated. */
  weighted: number
  /** As it swings, which ceilings and automatic gain feel: more than the A curve shows where it rumbles. */
  plain: number
}

const known = new Map<string, ColourLeft>()
const integration = { fromHz: 5, toHz: 24_000, steps: 1200 }

/**
 * A class of noise behind low-cuts: integrated over the band in equal steps of the logarithm of frequency.
 *
 * @param lowCutsHz corners of the low-cuts it has passed
 */
export function colourLeft(spectrum: NoiseSpectrum, lowCutsHz: readonly number[] = []): ColourLeft {
  const key = `${spectrum} ${lowCutsHz.join()}`
  const found = known.get(key)
  if (found) return found
  const { fromHz, toHz, steps } = integration
  let [whole, weighted, plain] = [0, 0, 0]
  for (let step = 0; step < steps; step++) {
    const hz = fromHz * (toHz / fromHz) ** ((step + 0.5) / steps)
    const density = colourPower(spectrum, hz) * hz
    const left = lowCutsHz.reduce((power, cornerHz) => power * lowCutPower(cornerHz, hz), density)
    const heard = powerFromDb(aWeightingDb(hz))
    whole += density * heard
    weighted += left * heard
    plain += left
  }
  const result = { weighted: weighted / whole, plain: plain / whole }
  known.set(key, result)
  return result
}

/**
 * How alike a voice is to itself some time later, over its A-weighted spectrum: 1 at once, about 0 after a few
 * milliseconds. Two ways of one voice add up to the powers of both plus twice this times their product.
 */
export function voiceCoherence(delayS: number): number {
  if (delayS === 0) return 1
  const half = 2 ** (1 / 6)
  return voiceWeights.reduce((sum, { hz, share }) => {
    // mean of the cosine over a third of an octave
    const [low, high] = [hz / half, hz * half].map((each) => 2 * Math.PI * each * delayS) as [number, number]
    return sum + (share * (Math.sin(high) - Math.sin(low))) / (high - low)
  }, 0)
}
