import { amplitudeDb, powerDb } from '../units'
import { AFilter } from './a-filter'
import { type Band, thirdsOf } from './spectrum'

/** A sound for comparison by ear: loudness, spectrum, waveform. */
export interface Heard {
  /** A-weighted level outside pauses, dBFS as a sine; -Infinity for silence. */
  levelDbfsA: number
  /** Level in each third of an octave, dBFS as a sine, with its middle frequency. */
  bands: Band[]
  /** Lowest and highest sample of each stretch. */
  envelope: [number, number][]
}

const blockS = 0.1
/** Blocks this far below the loudest are pauses, dB. */
const pauseDb = 25
const stretches = 240

export function heardIn(samples: Float32Array, rateHz: number): Heard {
  return {
    levelDbfsA: levelOf(samples, rateHz),
    bands: thirdsOf(samples, rateHz),
    envelope: envelopeOf(samples),
  }
}

function levelOf(samples: Float32Array, rateHz: number): number {
  const filter = new AFilter(rateHz)
  const length = Math.round(blockS * rateHz)
  const powers: number[] = []
  for (let from = 0; from + length <= samples.length; from += length)
    powers.push(filter.power(samples, from, from + length) / length)
  const loudest = Math.max(0, ...powers)
  const active = powers.filter((power) => power > loudest / 10 ** (pauseDb / 10))
  const mean = active.reduce((sum, power) => sum + power, 0) / Math.max(1, active.length)
  return powerDb(2 * mean)
}

function envelopeOf(samples: Float32Array): Heard['envelope'] {
  return Array.from({ length: stretches }, (_, stretch): [number, number] => {
    const from = Math.floor((stretch * samples.length) / stretches)
    const to = Math.max(from + 1, Math.floor(((stretch + 1) * samples.length) / stretches))
    let [low, high] = [0, 0]
    for (let index = from; index < Math.min(to, samples.length); index++) {
      low = Math.min(low, samples[index]!)
      high = Math.max(high, samples[index]!)
    }
    return [low, high]
  })
}

/** Gains that bring several sounds to the loudness of the softest, as factors; silence stays as it is. */
export function equalLoudness(sounds: readonly Heard[]): number[] {
  const levels = sounds.map(({ levelDbfsA }) => levelDbfsA)
  const softest = Math.min(...levels.filter(Number.isFinite))
  return levels.map((level) => (Number.isFinite(level) ? 10 ** ((softest - level) / 20) : 1))
}

/** Peak of samples, dBFS. */
export const peakDbfsOf = (samples: Float32Array): number =>
  amplitudeDb(samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0))
