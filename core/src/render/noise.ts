import { normal, random } from '../signals'
import { aWeightingDb, amplitudeFromDb, flatNoiseAWeightingDb, powerFromDb } from '../units'
import { noiseColours, type NoiseSpectrum } from '../acoustics'

const tableLength = 1 << 18

/** Normal noise from a table made once from a seed: every block begins somewhere else in it. */
export class NoiseTable {
  private made: Float32Array | undefined
  private readonly uniform: () => number

  constructor(seed: number) {
    this.uniform = random(seed)
  }

  private get table(): Float32Array {
    return (this.made ??= Float32Array.from({ length: tableLength }, normal(this.uniform)))
  }

  /** Adds white noise of a given RMS to a block. */
  add(block: Float32Array, rms: number): void {
    const { table } = this
    const from = Math.floor(this.uniform() * (tableLength - block.length))
    for (let index = 0; index < block.length; index++) block[index]! += rms * table[from + index]!
  }
}

const weightings = new Map<number, number>()

/** A-weighting of white noise up to half a rate, dB; integrated once for each rate. */
function weightingOfWhite(rateHz: number): number {
  const known = weightings.get(rateHz) ?? flatNoiseAWeightingDb(rateHz / 2, 0.5)
  weightings.set(rateHz, known)
  return known
}

/** RMS of white noise up to half the rate whose A-weighted level is as given; a sine of amplitude 1 is 0 dB. */
export const whiteRms = (levelA: number, rateHz: number): number =>
  levelA === -Infinity ? 0 : amplitudeFromDb(levelA - weightingOfWhite(rateHz)) / Math.SQRT2

/** White noise made to sound of its class, at an A-weighted level. */
export class Ambience {
  private readonly rms: number
  private readonly low: number
  private readonly high: number
  private lowState = 0
  private highState = 0

  constructor(
    spectrum: NoiseSpectrum,
    levelA: number,
    rateHz: number,
    private readonly noise: NoiseTable,
  ) {
    const { highPassHz, lowPassHz } = noiseColours[spectrum]
    this.low = 1 - Math.exp((-2 * Math.PI * lowPassHz) / rateHz)
    this.high = 1 - Math.exp((-2 * Math.PI * highPassHz) / rateHz)
    // power that the two filters and the A curve leave of white noise, summed over the band
    const steps = 2000
    let power = 0
    for (let step = 0; step < steps; step++) {
      const hz = ((step + 0.5) * rateHz) / 2 / steps
      const angle = (2 * Math.PI * hz) / rateHz
      const passed =
        onePole(this.low, angle) * (1 - 2 * onePoleReal(this.high, angle) + onePole(this.high, angle))
      power += (passed * powerFromDb(aWeightingDb(hz))) / steps
    }
    this.rms = amplitudeFromDb(levelA) / Math.SQRT2 / Math.sqrt(power)
  }

  add(block: Float32Array, scratch: Float32Array): void {
    scratch.fill(0)
    this.noise.add(scratch, this.rms)
    for (let index = 0; index < block.length; index++) {
      this.lowState += this.low * (scratch[index]! - this.lowState)
      this.highState += this.high * (this.lowState - this.highState)
      block[index]! += this.lowState - this.highState
    }
  }
}

/** Power that y += k (x - y) passes at an angle, and the real part of its response. */
const onePole = (k: number, angle: number): number =>
  (k * k) / (1 - 2 * (1 - k) * Math.cos(angle) + (1 - k) ** 2)
const onePoleReal = (k: number, angle: number): number =>
  (k * (1 - (1 - k) * Math.cos(angle))) / (1 - 2 * (1 - k) * Math.cos(angle) + (1 - k) ** 2)
