import type { Source } from '../model'
import { random } from '../signals'

/** Sound of a source, block by block. 0 dB is its typical level: a sine of amplitude 1 has it. */
export interface Voice {
  fill: (block: Float32Array, fromFrame: number) => void
}

/** How loud it is just now, over its typical level, dB. */
export interface Moment {
  effortDb: (timeS: number) => number
}

/** Nothing. */
export const silentVoice: Voice = { fill: (block) => void block.fill(0) }

/** A steady sine, some dB over the typical level. */
export const sineVoice = (frequencyHz: number, overDb: number, rateHz: number): Voice => ({
  fill: (block, fromFrame) => {
    const size = 10 ** (overDb / 20)
    for (let index = 0; index < block.length; index++)
      block[index] = size * Math.sin((2 * Math.PI * frequencyHz * (fromFrame + index)) / rateHz)
  },
})

/** Sentences of a made-up speaker: typical, quiet, loud, with pauses between. Made of figures; nobody was recorded. */
const sentences = [
  { seconds: 2.2, effort: 'typical' },
  { seconds: 1.8, effort: 'quietest' },
  { seconds: 1.6, effort: 'loudest' },
  { seconds: 2.4, effort: 'typical' },
] as const
const pauseS = 1.1
const roundS = sentences.reduce((sum, { seconds }) => sum + seconds + pauseS, 0)

/** Formants of five vowels, Hz: ordinary values of an adult voice. */
const vowels = [
  [700, 1150, 2500],
  [500, 1750, 2500],
  [320, 2200, 2900],
  [480, 850, 2450],
  [340, 750, 2300],
] as const
const syllableS = 0.22

/**
 * A made-up talking voice: a buzz of harmonics through three resonances that change from syllable to syllable, breath
 * noise on top, a syllable's rise and fall. While it speaks at typical effort its RMS is 0 dB; quiet and loud
 * sentences lie as far off as the source says, and its peaks reach the crest of the source.
 */
export function talkingVoice(source: Source, rateHz: number, seed: number): Voice {
  const levels = source.kind === 'line' ? source.levelsDbu : source.levelsDba
  const gains = {
    quietest: 10 ** ((levels.quietest - levels.typical) / 20),
    typical: 1,
    loudest: 10 ** ((levels.loudest - levels.typical) / 20),
  }
  const mouth = new Mouth(rateHz, seed)
  return {
    fill: (block, fromFrame) => {
      for (let from = 0; from < block.length; from += stepFrames) {
        const to = Math.min(block.length, from + stepFrames)
        const timeS = (fromFrame + from) / rateHz
        const gain = effortAt(timeS, gains)
        if (gain === 0) block.fill(0, from, to)
        else mouth.speak(block, from, to, timeS, gain)
      }
    },
  }
}

/** Gain of the sentence at a moment; 0 in a pause. A sentence fades in and out within 30 ms. */
function effortAt(timeS: number, gains: Record<(typeof sentences)[number]['effort'], number>): number {
  let within = timeS % roundS
  for (const { seconds, effort } of sentences) {
    if (within < seconds) return gains[effort] * Math.min(1, within / 0.03, (seconds - within) / 0.03)
    within -= seconds + pauseS
    if (within < 0) return 0
  }
  return 0
}

/** What changes slowly is worked out once for so many frames. */
const stepFrames = 32

/** A buzz through three resonances, with breath on top. */
class Mouth {
  private readonly chance: () => number
  private readonly vowels: { poles: Float64Array; loudness: number }[]
  private readonly states = new Float64Array(6)
  private phase = 0
  private syllable = -1
  private vowel: { poles: Float64Array; loudness: number }

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
    // each vowel by itself is brought to one loudness, found on itself
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
  }

  speak(block: Float32Array, from: number, to: number, timeS: number, gain: number): void {
    const syllable = Math.floor(timeS / syllableS)
    if (syllable !== this.syllable) {
      this.syllable = syllable
      this.vowel = this.vowels[Math.floor(this.chance() * this.vowels.length)]!
    }
    const { poles, loudness } = this.vowel
    const within = (timeS % syllableS) / syllableS
    const size = gain * loudness * Math.sin(Math.PI * Math.min(1, within * 1.15)) ** 0.6
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
      block[index] = size * sum
    }
  }
}

const strikeEveryS = 5

/**
 * Strikes between remarks: one every five seconds, its peak where the loudest moment has it, and a voice at typical and
 * quiet effort in between.
 */
export function strikingVoice(source: Source, rateHz: number, seed: number): Voice {
  const levels = source.kind === 'line' ? source.levelsDbu : source.levelsDba
  const peak = 10 ** ((levels.loudest - levels.typical + source.crestDb - 3.01) / 20)
  const partials = [
    [430, 1, 0.7],
    [861, 0.5, 0.55],
    [1030, 0.35, 0.45],
    [1720, 0.25, 0.25],
  ] as const
  const sum = partials.reduce((all, [, size]) => all + size, 0)
  const calm = { ...levels, loudest: levels.typical }
  const remarks = talkingVoice(
    source.kind === 'line' ? { ...source, levelsDbu: calm } : { ...source, levelsDba: calm },
    rateHz,
    seed,
  )
  // a partial is a turning arrow that shrinks: one product a sample
  const arrows = partials.map(([hz, size, decayS]) => {
    const shrink = Math.exp(-1 / (decayS * rateHz))
    const angle = (2 * Math.PI * hz) / rateHz
    return {
      start: (peak * size) / sum,
      re: shrink * Math.cos(angle),
      im: shrink * Math.sin(angle),
      x: 0,
      y: 0,
    }
  })
  const every = strikeEveryS * rateHz
  return {
    fill: (block, fromFrame) => {
      remarks.fill(block, fromFrame)
      for (let index = 0; index < block.length; index++) {
        if ((fromFrame + index) % every === 0)
          for (const arrow of arrows) {
            arrow.x = arrow.start
            arrow.y = 0
          }
        for (const arrow of arrows) {
          block[index]! += arrow.x
          const x = arrow.re * arrow.x - arrow.im * arrow.y
          arrow.y = arrow.im * arrow.x + arrow.re * arrow.y
          arrow.x = x
        }
      }
    },
  }
}

/** The made-up sound of a source by its kind. */
export const voiceOf = (source: Source, rateHz: number, seed: number): Voice =>
  source.kind === 'strike' ? strikingVoice(source, rateHz, seed) : talkingVoice(source, rateHz, seed)

/** Somebody's own clip as the voice, over and over, brought so that its active RMS is the typical level. */
export function clipVoice(samples: Float32Array): Voice {
  const blockLength = 4800
  const powers: number[] = []
  for (let from = 0; from + blockLength <= samples.length; from += blockLength) {
    let square = 0
    for (let index = from; index < from + blockLength; index++) square += samples[index]! ** 2
    powers.push(square / blockLength)
  }
  const loudest = Math.max(...powers, 1e-20)
  const active = powers.filter((power) => power > loudest / 1000)
  const mean = active.reduce((sum, power) => sum + power, 0) / Math.max(1, active.length)
  const scale = mean > 0 ? 1 / Math.sqrt(2 * mean) : 0
  return {
    fill: (block, fromFrame) => {
      for (let index = 0; index < block.length; index++)
        block[index] = scale * (samples[(fromFrame + index) % samples.length] ?? 0)
    },
  }
}
