import { amplitudeFromDb } from '../units'
import { filtered, highPass, resonance, type SecondOrder } from './filters'
import { normal, random } from './random'

/** How somebody speaks. */
export interface Manner {
  lengthS: number
  rateHz: number
  seed: number
  /** RMS while something sounds, re a full-scale sine. */
  levelDbfs: number
  /** Left out: 120 Hz. */
  pitchHz?: number
  /** No voice, breath only. */
  whispered?: boolean
  /** Pauses between phrases, seconds; left out: 0.5 to 1.6. */
  pausesS?: [number, number]
}

/** A stretch in which something is spoken. */
export interface Phrase {
  fromS: number
  toS: number
}

/** Formants of vowels in Hz, ordinary values of an adult voice. */
const vowels = [
  [700, 1220, 2600],
  [530, 1840, 2480],
  [400, 2000, 2550],
  [280, 2250, 2890],
  [570, 840, 2410],
  [440, 1020, 2240],
  [300, 870, 2240],
  [640, 1190, 2390],
] as const
/** Spectral tilt of speech towards the treble. */
const formantGains = [1, 0.4, 0.16] as const
const consonants = ['none', 'none', 'hiss', 'stop', 'hum'] as const

/**
 * Made-up speech: a glottal wave through moving resonances, with hisses, stops and hums between the vowels, in phrases
 * with pauses. Nobody was recorded. Silence between the phrases is digital: noise is added by who uses it.
 */
export function speech(manner: Manner): { samples: Float32Array; phrases: Phrase[] } {
  const { lengthS, rateHz, pausesS = [0.5, 1.6] } = manner
  const chance = random(manner.seed)
  const samples = new Float32Array(Math.round(lengthS * rateHz))
  const phrases: Phrase[] = []
  const speaker = new Speaker(manner, chance)
  let at = 0.3 + 0.3 * chance()
  while (at < lengthS - 0.5) {
    const from = at
    const end = Math.min(lengthS - 0.2, at + 0.8 + 2 * chance())
    while (at < end) at = speaker.syllable(samples, at, (at - from) / (end - from))
    phrases.push({ fromS: from, toS: Math.min(at, lengthS) })
    at += pausesS[0] + (pausesS[1] - pausesS[0]) * chance()
  }
  return { samples: scaled(samples, manner.levelDbfs, phrases, rateHz), phrases }
}

/** Scales the active part to a level. */
function scaled(
  samples: Float32Array,
  levelDbfs: number,
  phrases: readonly Phrase[],
  rateHz: number,
): Float32Array {
  let square = 0
  let count = 0
  for (const { fromS, toS } of phrases)
    for (let index = Math.floor(fromS * rateHz); index < Math.min(samples.length, toS * rateHz); index++) {
      square += samples[index]! ** 2
      count++
    }
  const scale = amplitudeFromDb(levelDbfs) / Math.sqrt((2 * square) / Math.max(1, count))
  return samples.map((sample) => sample * scale)
}

class Speaker {
  private readonly noise: () => number
  private phase = 0
  private stretch = 1
  private drift = 0

  constructor(
    private readonly manner: Manner,
    private readonly chance: () => number,
  ) {
    this.noise = normal(chance)
  }

  /** Adds one syllable and says when the next begins. */
  syllable(samples: Float32Array, fromS: number, through: number): number {
    const { chance } = this
    const kind = consonants[Math.floor(chance() * consonants.length)]!
    const stress = amplitudeFromDb(this.noise() * 2.5 + (chance() < 0.2 ? 4 : 0) - 3 * through)
    let at = fromS
    if (kind === 'hiss') at = this.hiss(samples, at, 0.06 + 0.08 * chance(), 0.16 * stress)
    if (kind === 'stop') at = this.stop(samples, at, stress)
    const lengthS = 0.11 + 0.16 * chance()
    const first = vowels[Math.floor(chance() * vowels.length)]!
    const last = chance() < 0.5 ? first : vowels[Math.floor(chance() * vowels.length)]!
    if (kind === 'hum')
      at = this.voiced(samples, at, 0.06, [270, 1100, 2100], [270, 1100, 2100], 0.35 * stress)
    return this.voiced(samples, at, lengthS, first, last, stress)
  }

  private hiss(samples: Float32Array, fromS: number, lengthS: number, size: number): number {
    const { rateHz } = this.manner
    const middleHz = 3500 + 3500 * this.chance()
    this.add(
      samples,
      fromS,
      lengthS,
      0.02,
      (count) =>
        filtered(
          Float32Array.from({ length: count }, () => this.noise()),
          resonance(middleHz, 2500, rateHz),
          highPass(1500, rateHz),
        ),
      size,
    )
    return fromS + lengthS * 0.9
  }
  /** The mouth closes, then opens with a short burst. */
  private stop(samples: Float32Array, fromS: number, size: number): number {
    const { rateHz } = this.manner
    const burstS = 0.012
    this.add(
      samples,
      fromS + 0.05,
      burstS,
      0.002,
      (count) =>
        filtered(
          Float32Array.from({ length: count }, () => this.noise()),
          resonance(1200 + 2500 * this.chance(), 2000, rateHz),
        ),
      0.3 * size,
    )
    return fromS + 0.05 + burstS
  }
  private voiced(
    samples: Float32Array,
    fromS: number,
    lengthS: number,
    first: readonly number[],
    last: readonly number[],
    size: number,
  ): number {
    this.add(
      samples,
      fromS,
      lengthS,
      0.03,
      (count) =>
        this.mouth(
          this.manner.whispered
            ? Float64Array.from({ length: count }, () => this.noise())
            : this.glottal(count, lengthS),
          first,
          last,
        ),
      size,
    )
    return fromS + lengthS * 0.97
  }

  /** Air through the glottis, already differentiated as it leaves the mouth (Rosenberg 1971, shape B). */
  private glottal(count: number, lengthS: number): Float64Array {
    const { rateHz, pitchHz = 120 } = this.manner
    this.drift += 0.3 * (0.12 * this.noise() - this.drift)
    const openShare = 0.4
    const closeShare = 0.2
    return Float64Array.from({ length: count }, (_, index) => {
      const through = index / (lengthS * rateHz)
      this.phase += (pitchHz * (1 + this.drift + 0.05 * Math.sin(3 * through)) * this.stretch) / rateHz
      if (this.phase >= 1) {
        this.phase -= 1
        this.stretch = 1 + 0.008 * this.noise()
      }
      const { phase } = this
      const breath = 0.02 * this.noise()
      if (phase < openShare)
        return (Math.sin((Math.PI * phase) / openShare) * Math.PI) / 2 / openShare / 8 + breath
      if (phase < openShare + closeShare)
        return (
          -(Math.PI / 2 / closeShare / 8) * Math.sin((Math.PI / 2) * ((phase - openShare) / closeShare)) +
          breath
        )
      return breath
    })
  }
  /** Resonances that move from vowel to vowel, updated every 5 ms. */
  private mouth(source: Float64Array, first: readonly number[], last: readonly number[]): Float32Array {
    const { rateHz } = this.manner
    const out = new Float32Array(source.length)
    const stepFrames = Math.round(0.005 * rateHz)
    const states = first.map(() => [0, 0])
    let filters: SecondOrder[] = []
    for (let index = 0; index < source.length; index++) {
      if (index % stepFrames === 0) {
        const share = index / source.length
        filters = first.map((hz, formant) =>
          resonance(hz + share * (last[formant]! - hz), 60 + 40 * formant, rateHz),
        )
      }
      let sum = 0
      filters.forEach(({ b0, b2, a1, a2 }, formant) => {
        const state = states[formant]!
        const x = source[index]!
        const y = b0 * x + state[0]!
        state[0] = state[1]! - a1 * y
        state[1] = b2 * x - a2 * y
        sum += formantGains[formant]! * y
      })
      out[index] = sum
    }
    return out
  }
  /** Adds a sound of an RMS with soft edges. */
  private add(
    samples: Float32Array,
    fromS: number,
    lengthS: number,
    edgeS: number,
    made: (count: number) => Float32Array,
    rms: number,
  ): void {
    const { rateHz } = this.manner
    const from = Math.round(fromS * rateHz)
    const sound = made(Math.round(lengthS * rateHz))
    const scale = rms / Math.sqrt(sound.reduce((sum, sample) => sum + sample * sample, 1e-20) / sound.length)
    const edge = Math.max(1, Math.min(edgeS, lengthS / 2) * rateHz)
    sound.forEach((sample, index) => {
      const at = from + index
      if (at >= samples.length) return
      const rise = Math.min(1, index / edge, (sound.length - index) / edge)
      samples[at]! += scale * sample * (0.5 - 0.5 * Math.cos(Math.PI * rise))
    })
  }
}
