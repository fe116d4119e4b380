import { amplitudeDb, powerDb } from '../units'
import { AFilter } from './a-filter'

/** A sound as it is compared by ear: how loud it is, what is in it, how its wave runs. */
export interface Heard {
  /** A-weighted level of what is not pause, dBFS as a sine; -Infinity for silence. */
  levelDbfsA: number
  /** Level in each third of an octave, dBFS as a sine, with its middle frequency. */
  bands: { hz: number; levelDbfs: number }[]
  /** Lowest and highest sample of each of so many stretches. */
  envelope: [number, number][]
}

const blockS = 0.1
/** Blocks this far under the loudest are pauses. */
const pauseDb = 25
const fftLength = 8192
const stretches = 240

export function heardIn(samples: Float32Array, rateHz: number): Heard {
  return {
    levelDbfsA: levelOf(samples, rateHz),
    bands: bandsOf(samples, rateHz),
    envelope: envelopeOf(samples),
  }
}

function levelOf(samples: Float32Array, rateHz: number): number {
  const filter = new AFilter(rateHz)
  const length = Math.round(blockS * rateHz)
  const powers: number[] = []
  let square = 0
  for (let index = 0; index < samples.length; index++) {
    square += filter.next(samples[index]!) ** 2
    if ((index + 1) % length === 0) {
      powers.push(square / length)
      square = 0
    }
  }
  const loudest = Math.max(0, ...powers)
  const active = powers.filter((power) => power > loudest / 10 ** (pauseDb / 10))
  const mean = active.reduce((sum, power) => sum + power, 0) / Math.max(1, active.length)
  return powerDb(2 * mean)
}

function bandsOf(samples: Float32Array, rateHz: number): Heard['bands'] {
  const power = new Float64Array(fftLength / 2)
  let count = 0
  const re = new Float64Array(fftLength)
  const im = new Float64Array(fftLength)
  // a Hann window takes 3/8 of the power
  for (let from = 0; from + fftLength <= samples.length; from += fftLength / 2) {
    for (let index = 0; index < fftLength; index++) {
      re[index] = samples[from + index]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * index) / fftLength))
      im[index] = 0
    }
    transform(re, im)
    for (let bin = 1; bin < power.length; bin++) power[bin]! += re[bin]! ** 2 + im[bin]! ** 2
    count++
  }
  const scale = count ? (2 * 2) / (0.375 * fftLength * fftLength * count) : 0
  const bands: Heard['bands'] = []
  for (let band = -16; band <= 13; band++) {
    const hz = 1000 * 2 ** (band / 3)
    const [low, high] = [hz / 2 ** (1 / 6), hz * 2 ** (1 / 6)].map((edge) => (edge * fftLength) / rateHz) as [
      number,
      number,
    ]
    if (high >= power.length) break
    let sum = 0
    // bins that lie across an edge count by the part that lies inside
    for (let bin = Math.floor(low); bin <= Math.ceil(high); bin++)
      sum += power[bin]! * Math.max(0, Math.min(bin + 0.5, high) - Math.max(bin - 0.5, low))
    bands.push({ hz, levelDbfs: powerDb(sum * scale) })
  }
  return bands
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

/** Fourier transform in place, of a length that is a power of two (Cooley and Tukey). */
export function transform(re: Float64Array, im: Float64Array): void {
  const size = re.length
  for (let index = 1, mirrored = 0; index < size; index++) {
    let bit = size >> 1
    for (; mirrored & bit; bit >>= 1) mirrored ^= bit
    mirrored ^= bit
    if (index < mirrored) {
      ;[re[index], re[mirrored]] = [re[mirrored]!, re[index]!]
      ;[im[index], im[mirrored]] = [im[mirrored]!, im[index]!]
    }
  }
  for (let length = 2; length <= size; length <<= 1) {
    const angle = (-2 * Math.PI) / length
    const half = length >> 1
    for (let k = 0; k < half; k++) {
      const [wr, wi] = [Math.cos(angle * k), Math.sin(angle * k)]
      for (let start = k; start < size; start += length) {
        const other = start + half
        const tr = re[other]! * wr - im[other]! * wi
        const ti = re[other]! * wi + im[other]! * wr
        re[other] = re[start]! - tr
        im[other] = im[start]! - ti
        re[start]! += tr
        im[start]! += ti
      }
    }
  }
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
