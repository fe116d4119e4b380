import { powerDb } from '../units'
import { transform } from './fourier'

/** Level around a frequency, dBFS as a sine. */
export interface Band {
  hz: number
  levelDbfs: number
}

const fftLength = 8192

/** Power of each line of a spectrum, the mean of overlapping stretches; a sine of full scale has 1 over its lines. */
function powersOf(samples: Float32Array, length: number): Float64Array {
  const power = new Float64Array(length / 2)
  const re = new Float64Array(length)
  const im = new Float64Array(length)
  let count = 0
  for (let from = 0; from + length <= samples.length; from += length / 2) {
    for (let index = 0; index < length; index++) {
      re[index] = samples[from + index]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * index) / length))
      im[index] = 0
    }
    transform(re, im)
    for (let line = 1; line < power.length; line++) power[line]! += re[line]! ** 2 + im[line]! ** 2
    count++
  }
  // a Hann window takes 3/8 of the power
  const scale = count ? (2 * 2) / (0.375 * length * length * count) : 0
  return power.map((each) => each * scale)
}

/** Level of sound in each third of an octave from 25 Hz to 20 kHz, its mean over all of it. */
export function thirdsOf(samples: Float32Array, rateHz: number): Band[] {
  const power = powersOf(samples, fftLength)
  const bands: Band[] = []
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
    bands.push({ hz, levelDbfs: powerDb(sum) })
  }
  return bands
}

/** Longest transform: its lines are less than 1.5 Hz wide, which separates hum and its harmonics. */
const longestFine = 1 << 16

/** The strongest line around each of `points` frequencies, spaced logarithmically from 20 Hz, so that hum stands out. */
export function linesOf(samples: Float32Array, rateHz: number, points: number): Band[] {
  let length = longestFine
  while (length > 1024 && length > samples.length) length /= 2
  const power = powersOf(samples, length)
  const [from, to] = [20, Math.min(20_000, 0.48 * rateHz)]
  const edge = (index: number) => (from * (to / from) ** (index / points) * length) / rateHz
  return Array.from({ length: points }, (_, index) => {
    const [low, high] = [Math.round(edge(index)), Math.round(edge(index + 1))]
    let most = power[low] ?? 0
    // a sine lies in three lines of the window
    for (let line = low; line < high; line++) most = Math.max(most, power[line]!)
    return { hz: from * (to / from) ** ((index + 0.5) / points), levelDbfs: powerDb(1.5 * most) }
  })
}
