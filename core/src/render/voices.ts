import type { Source } from '../model'
import { normal, random } from '../signals'

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
  const breath = normal(random(seed))
  const pick = random(seed + 1)
  const states = vowels[0].map(() => ({ y1: 0, y2: 0 }))
  let phase = 0
  let vowel: readonly number[] = vowels[0]
  let syllable = -1
  const loudness = new Map<readonly number[], number>()
  const raw = (timeS: number, speaking: number): number => {
    const now = Math.floor(timeS / syllableS)
    if (now !== syllable) {
      syllable = now
      vowel = vowels[Math.floor(pick() * vowels.length)]!
    }
    const within = (timeS % syllableS) / syllableS
    const envelope = Math.sin(Math.PI * Math.min(1, within * 1.15)) ** 0.6 * speaking
    const pitchHz = 118 + 14 * Math.sin(2 * Math.PI * 0.7 * timeS) + 6 * Math.sin(2 * Math.PI * 3.1 * timeS)
    phase += pitchHz / rateHz
    if (phase >= 1) phase -= 1
    const buzz = 2 * phase - 1 + 0.08 * breath()
    let sum = 0
    for (const [index, hz] of vowel.entries()) {
      const state = states[index]!
      const radius = Math.exp((-Math.PI * (60 + 40 * index)) / rateHz)
      const y =
        buzz * (1 - radius) +
        2 * radius * Math.cos((2 * Math.PI * hz) / rateHz) * state.y1 -
        radius * radius * state.y2
      state.y2 = state.y1
      state.y1 = y
      sum += y / (1 + index)
    }
    return sum * envelope * (loudness.get(vowel) ?? 1)
  }
  // each vowel by itself is brought to one loudness, found on itself
  const frames = Math.round(8 * syllableS * rateHz)
  for (const each of vowels) {
    vowel = each
    let square = 0
    for (let frame = 0; frame < frames; frame++) {
      syllable = Math.floor(frame / rateHz / syllableS)
      square += raw(frame / rateHz, 1) ** 2
    }
    loudness.set(each, 1 / Math.sqrt((2 * square) / frames))
  }
  syllable = -1
  return {
    fill: (block, fromFrame) => {
      for (let index = 0; index < block.length; index++) {
        const timeS = (fromFrame + index) / rateHz
        let within = timeS % roundS
        let gain = 0
        for (const { seconds, effort } of sentences) {
          if (within < seconds) {
            // a sentence fades in and out within 30 ms
            const edge = Math.min(1, within / 0.03, (seconds - within) / 0.03)
            gain = gains[effort] * edge
            break
          }
          within -= seconds + pauseS
          if (within < 0) break
        }
        block[index] = gain === 0 ? 0 : gain * raw(timeS, 1)
      }
    },
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
  return {
    fill: (block, fromFrame) => {
      remarks.fill(block, fromFrame)
      for (let index = 0; index < block.length; index++) {
        const timeS = ((fromFrame + index) / rateHz) % strikeEveryS
        let value = 0
        for (const [hz, size, decayS] of partials)
          value += size * Math.exp(-timeS / decayS) * Math.cos(2 * Math.PI * hz * timeS)
        block[index]! += (peak * value) / sum
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
