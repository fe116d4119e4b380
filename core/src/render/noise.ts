import { normal, random } from '../signals'
import { aWeightingDb, amplitudeFromDb, flatNoiseAWeightingDb, powerFromDb } from '../units'
import { noiseColours, type TakenIn } from '../acoustics'
import { beat, fadeS, momentAt, riseS, swell } from './timeline'

const tableLength = 1 << 18

let table: Float32Array | undefined

/** Normal noise from one table, made once: every block begins somewhere else in it, where a seed says. */
export class NoiseTable {
  private readonly uniform: () => number

  constructor(seed: number) {
    this.uniform = random(seed)
  }

  /** Adds white noise of a given RMS to a block. */
  add(block: Float32Array, rms: number): void {
    table ??= Float32Array.from({ length: tableLength }, normal(random(1)))
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

/**
 * Noise of a place or of a feed, made to sound of its class. It has its A-weighted level, swells to its loudest while
 * everything is loudest, begins that moment with its peak, and never goes beyond its crest.
 */
export class Ambience {
  private readonly rms: number
  private readonly low: MatchedLowPass
  private readonly high: number
  private readonly loudest: number
  /** Amplitude that its peaks reach as it mostly is. */
  private readonly peak: number
  private readonly beatHz: number
  private lowState = 0
  private lastWhite = 0
  private highState = 0

  constructor(
    { spectrum, levelDba, loudestDba, crestDb }: TakenIn,
    private readonly rateHz: number,
    private readonly noise: NoiseTable,
  ) {
    const { highPassHz, lowPassHz } = noiseColours[spectrum]
    this.low = matchedLowPass(lowPassHz, rateHz)
    this.high = 1 - Math.exp((-2 * Math.PI * highPassHz) / rateHz)
    const { weighted, plain } = this.passed()
    this.rms = amplitudeFromDb(levelDba) / Math.SQRT2 / Math.sqrt(weighted)
    this.peak = this.rms * Math.sqrt(plain) * amplitudeFromDb(crestDb)
    this.loudest = amplitudeFromDb(loudestDba - levelDba)
    this.beatHz = Math.min(500, Math.sqrt(highPassHz * lowPassHz))
  }

  add(block: Float32Array, scratch: Float32Array, fromFrame: number): void {
    scratch.fill(0)
    this.noise.add(scratch, this.rms)
    const { now, before, kept } = this.low
    for (let index = 0; index < block.length; index++) {
      const white = scratch[index]!
      this.lowState = now * white + before * this.lastWhite + kept * this.lowState
      this.lastWhite = white
      this.highState += this.high * (this.lowState - this.highState)
      const { effort, sinceS, leftS } = momentAt((fromFrame + index) / this.rateHz)
      const loud = effort === 'loudest'
      const limit = (loud ? this.loudest : 1) * this.peak
      // it gives way to the beat of a loud moment, returns as that dies away, and falls back to its usual level
      const back = Math.min(1, leftS / fadeS)
      const size = !loud
        ? 1
        : sinceS < riseS
          ? 1 - sinceS / riseS
          : this.loudest * swell(sinceS) * back + (1 - back)
      const sample = size * (this.lowState - this.highState) + (loud ? limit * beat(sinceS, this.beatHz) : 0)
      block[index]! += Math.max(-limit, Math.min(limit, sample))
    }
  }

  /** Power that the two filters leave of white noise, under the A curve and without it. */
  private passed(): { weighted: number; plain: number } {
    const steps = 4000
    let [weighted, plain] = [0, 0]
    for (let step = 0; step < steps; step++) {
      const hz = ((step + 0.5) * this.rateHz) / 2 / steps
      const angle = (2 * Math.PI * hz) / this.rateHz
      const power =
        lowPassPower(this.low, angle) * (1 - 2 * onePoleReal(this.high, angle) + onePole(this.high, angle))
      plain += power / steps
      weighted += (power * powerFromDb(aWeightingDb(hz))) / steps
    }
    return { weighted, plain }
  }
}

/** y = now x + before x' + kept y', with x' and y' of the previous sample. */
interface MatchedLowPass {
  now: number
  before: number
  kept: number
}

/**
 * A low-pass of first order that passes what the analogue one passes at 0 Hz and at half the rate, with its pole (impulse
 * invariance; the zero from the two conditions). One pole alone leaves too much near half the rate: noise that is even to
 * 8 kHz was 0.8 dB louder, as automatic gain hears it, than its A-weighted level says.
 */
function matchedLowPass(cornerHz: number, rateHz: number): MatchedLowPass {
  const kept = Math.exp((-2 * Math.PI * cornerHz) / rateHz)
  const atHalfRate = 1 / Math.hypot(1, rateHz / 2 / cornerHz)
  const [sum, difference] = [1 - kept, (1 + kept) * atHalfRate]
  return { now: (sum + difference) / 2, before: (sum - difference) / 2, kept }
}

const lowPassPower = ({ now, before, kept }: MatchedLowPass, angle: number): number =>
  (now * now + before * before + 2 * now * before * Math.cos(angle)) /
  (1 + kept * kept - 2 * kept * Math.cos(angle))

/** Power that y += k (x - y) passes at an angle, and the real part of its response. */
const onePole = (k: number, angle: number): number =>
  (k * k) / (1 - 2 * (1 - k) * Math.cos(angle) + (1 - k) ** 2)
const onePoleReal = (k: number, angle: number): number =>
  (k * (1 - (1 - k) * Math.cos(angle))) / (1 - 2 * (1 - k) * Math.cos(angle) + (1 - k) ** 2)
