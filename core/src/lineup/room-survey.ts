import { noiseColours, type NoiseSpectrum, noiseThirdDb } from '../acoustics'
import { AFilter, thirdsOf } from '../measure'
import { filtered, highPass, lowPass } from '../signals'
import { powerDb } from '../units'

/** How a room dies away after a clap. */
export interface Reverberation {
  /** Time to fall by 60 dB, from the part of the fall that could be seen. */
  rt60S: number
  /** Level of the clap above everything else, dB. */
  rangeDb: number
  /** How straight the fall was, 0 to 1: a room of two that open into each other bends. */
  straightness: number
}

/** Noise while nobody speaks. */
export interface RoomNoise {
  /** A-weighted, re a full-scale sine. */
  levelDbfsA: number
  /** The class of noise whose colour comes nearest. */
  spectrum: NoiseSpectrum
  bands: { hz: number; levelDbfs: number }[]
}

/** The clap is heard where speech is. */
const bandHz = [350, 3500] as const
const stepS = 0.005
/** The decay is read between these levels below its start; a decay smaller than the last is too short to read, dB. */
const readFromDb = -5
const fittedDownToDb = -25
const leastRangeDb = 32
/** Reading stops this far above the noise, dB. */
const overNoiseDb = 7

/**
 * Reverberation time from one clap: backward integration of its square (Schroeder 1965; ISO 3382-2, the fall from -5 to
 * -25 dB, three times over), ended where the tail comes near the noise. Undefined where no clap stands out far enough.
 */
export function reverberationOf(samples: Float32Array, rateHz: number): Reverberation | undefined {
  const heard = filtered(Float64Array.from(samples), highPass(bandHz[0], rateHz), lowPass(bandHz[1], rateHz))
  const powers = stepPowers(heard, rateHz)
  const sorted = [...powers].sort((one, other) => one - other)
  const noise = sorted[Math.floor(sorted.length / 5)] ?? 0
  let clap = 0
  powers.forEach((power, step) => {
    if (power > powers[clap]!) clap = step
  })
  const rangeDb = powerDb(powers[clap]! / Math.max(noise, 1e-14))
  if (!(rangeDb >= leastRangeDb)) return undefined
  const floor = noise * 10 ** (overNoiseDb / 10)
  let end = clap
  while (end + 1 < powers.length && powers[end + 1]! > floor) end++
  // below the noise the decay is continued at the same rate
  const decay = decayOf(powers.subarray(clap, end + 1), noise)
  const from = decay.findIndex((db) => db <= readFromDb)
  const to = decay.findIndex((db) => db <= fittedDownToDb)
  if (from < 0 || to - from < 3) return undefined
  const { slope, straightness } = lineThrough(decay.slice(from, to + 1))
  return slope < 0 ? { rt60S: (-60 / slope) * stepS, rangeDb, straightness } : undefined
}

function stepPowers(samples: Float64Array, rateHz: number): Float64Array {
  const length = Math.round(stepS * rateHz)
  return Float64Array.from({ length: Math.floor(samples.length / length) }, (_, step) => {
    let sum = 0
    for (let index = step * length; index < (step + 1) * length; index++) sum += samples[index]! ** 2
    return sum / length
  })
}

/** Remaining power from each step on relative to the total, dB, with the noise subtracted. */
function decayOf(powers: Float64Array, noise: number): number[] {
  const left: number[] = []
  let sum = 0
  for (let step = powers.length - 1; step >= 0; step--) {
    sum += Math.max(0, powers[step]! - noise)
    left[step] = sum
  }
  return left.map((each) => powerDb(each / left[0]!))
}

function lineThrough(values: readonly number[]): { slope: number; straightness: number } {
  const middle = (values.length - 1) / 2
  const mean = values.reduce((sum, each) => sum + each, 0) / values.length
  let [over, across, up] = [0, 0, 0]
  values.forEach((value, index) => {
    over += (index - middle) * (value - mean)
    across += (index - middle) ** 2
    up += (value - mean) ** 2
  })
  return { slope: over / across, straightness: up > 0 ? over ** 2 / (across * up) : 0 }
}

/** The noise of a place: its level, and what colour it has. */
export function roomNoiseOf(samples: Float32Array, rateHz: number): RoomNoise | undefined {
  if (samples.length < rateHz) return undefined
  const power = new AFilter(rateHz).power(samples, 0, samples.length) / samples.length
  if (!(power > 0)) return undefined
  const bands = thirdsOf(samples, rateHz).filter(({ hz }) => hz > 60 && hz < 9000)
  const classes = Object.keys(noiseColours) as NoiseSpectrum[]
  const spectrum = classes.reduce((one, other) => (misfit(bands, other) < misfit(bands, one) ? other : one))
  return { levelDbfsA: powerDb(2 * power), spectrum, bands }
}

/** Deviation of bands from the spectrum of a class, after the best overall shift, dB. */
function misfit(bands: RoomNoise['bands'], spectrum: NoiseSpectrum): number {
  const off = bands.map(({ hz, levelDbfs }) => levelDbfs - noiseThirdDb(spectrum, hz))
  const mean = off.reduce((sum, each) => sum + each, 0) / off.length
  return off.reduce((sum, each) => sum + (each - mean) ** 2, 0)
}
