import { random } from '../signals'

/** Frames between updates of slowly changing values. */
export const stepFrames = 32

/** Formants of five vowels, Hz: ordinary values of an adult voice. */
const vowels = [
  [700, 1150, 2500],
  [500, 1750, 2500],
  [320, 2200, 2900],
  [480, 850, 2450],
  [340, 750, 2300],
] as const
const syllableS = 0.22
/** Time of the glide from one vowel to the next, s. */
const glideS = 0.004

interface Vowel {
  poles: Float64Array
  loudness: number
}

/** Breath between the pulses of the buzz: without it there would be silence for milliseconds. */
const breathSize = 0.03
/** Opening of the mouth between syllables: fully closed, they would sound cut out... */
const nearlyClosed = 0.2
/** ...and a buzz that rose faster than this would click, s. */
const partingS = 0.005
/** Opening of the mouth some time into a syllable, 0 to 1. */
function opening(sinceS: number): number {
  const swing = Math.sin(Math.PI * Math.min(1, (sinceS / syllableS) * 1.15)) ** 0.6
  return nearlyClosed + (1 - nearlyClosed) * Math.min(1, sinceS / partingS) * swing
}

/** A buzz through three resonances that change from syllable to syllable, with breath on top. */
export class Mouth {
  private readonly chance: () => number
  private readonly vowels: Vowel[]
  private readonly states = new Float64Array(6)
  private phase = 0
  private syllable = -1
  private vowel: Vowel
  /** Where size and resonances were left; neither jumps. */
  private size = 0
  private loudness = 1
  private breath = 0
  private readonly poles: Float64Array

  constructor(
    private readonly rateHz: number,
    seed: number,
  ) {
    this.chance = random(seed)
    this.vowels = vowels.map((formants) => ({
      poles: Float64Array.from(
        formants.flatMap((hz, index) => {
          const radius = Math.exp((-Math.PI * (60 + 40 * index)) / rateHz)
          return [2 * radius * Math.cos((2 * Math.PI * hz) / rateHz), radius * radius, 1 - radius]
        }),
      ),
      loudness: 1,
    }))
    this.vowel = this.vowels[0]!
    this.poles = this.vowel.poles.slice()
    // each vowel is normalised to the same loudness
    const trial = new Float32Array(Math.round(8 * syllableS * rateHz))
    for (const each of this.vowels) {
      this.vowel = each
      trial.fill(0)
      for (let from = 0; from < trial.length; from += stepFrames) {
        this.syllable = Math.floor(from / rateHz / syllableS)
        this.speak(trial, from, Math.min(trial.length, from + stepFrames), from / rateHz, 1)
      }
      const square = trial.reduce((sum, sample) => sum + sample * sample, 0)
      each.loudness = 1 / Math.sqrt((2 * square) / trial.length)
    }
    this.syllable = -1
    this.size = this.breath = 0
  }

  /** Fills part of a block, with the gain to reach at its end: with 1 the RMS is that of a sine of amplitude 1. */
  speak(block: Float32Array, from: number, to: number, timeS: number, gain: number): void {
    const stepS = stepFrames / this.rateHz
    const step = Math.round(timeS / stepS)
    const syllable = Math.floor((step * stepS) / syllableS + 1e-9)
    if (syllable !== this.syllable) {
      this.syllable = syllable
      this.vowel = this.vowels[Math.floor(this.chance() * this.vowels.length)]!
    }
    const { poles: wanted, loudness } = this.vowel
    const { poles } = this
    const nearer = Math.min(1, stepS / glideS)
    this.loudness += nearer * (loudness - this.loudness)
    for (let index = 0; index < poles.length; index++)
      poles[index]! += nearer * (wanted[index]! - poles[index]!)
    const sinceS = (step - Math.ceil((syllable * syllableS) / stepS - 1e-6)) * stepS
    const breathes = (gain * breathSize - this.breath) / (to - from)
    const rise = (gain * this.loudness * opening(sinceS + stepS) - this.size) / (to - from)
    const pitchHz = 118 + 14 * Math.sin(2 * Math.PI * 0.7 * timeS) + 6 * Math.sin(2 * Math.PI * 3.1 * timeS)
    const turn = pitchHz / this.rateHz
    const { states, chance } = this
    for (let index = from; index < to; index++) {
      this.phase += turn
      if (this.phase >= 1) this.phase -= 1
      const buzz = 2 * this.phase - 1 + 0.24 * (chance() - 0.5)
      let sum = 0
      for (let formant = 0; formant < 3; formant++) {
        const [pole, state] = [3 * formant, 2 * formant]
        const y =
          buzz * poles[pole + 2]! + poles[pole]! * states[state]! - poles[pole + 1]! * states[state + 1]!
        states[state + 1] = states[state]!
        states[state] = y
        sum += y / (1 + formant)
      }
      this.size += rise
      this.breath += breathes
      block[index] = this.size * sum + this.breath * (chance() - 0.5)
    }
  }
}
