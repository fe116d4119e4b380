import { amplitudeFromDb } from '../units'
import { filtered, highPass, lowPass, resonance } from './filters'
import { normal, random } from './random'

/** Common options of synthetic sounds. */
export interface Sound {
  lengthS: number
  rateHz: number
  seed: number
  /** RMS of the whole, re a full-scale sine. */
  levelDbfs: number
}

/** Brings samples to an RMS, in place. */
export function atLevel(samples: Float32Array, levelDbfs: number): Float32Array {
  let square = 0
  for (const sample of samples) square += sample * sample
  const scale = square ? amplitudeFromDb(levelDbfs) / Math.sqrt((2 * square) / samples.length) : 0
  for (let index = 0; index < samples.length; index++) samples[index]! *= scale
  return samples
}
const framesOf = ({ lengthS, rateHz }: Sound): number => Math.round(lengthS * rateHz)
const white = (sound: Sound): Float32Array => {
  const next = normal(random(sound.seed))
  return Float32Array.from({ length: framesOf(sound) }, () => next())
}
/** Adds sounds of equal length. */
export function mixed(first: Float32Array, ...others: readonly Float32Array[]): Float32Array {
  return first.map((sample, index) => others.reduce((sum, other) => sum + (other[index] ?? 0), sample))
}

/** Noise of an amplifier: flat. */
export const amplifierNoise = (sound: Sound): Float32Array => atLevel(white(sound), sound.levelDbfs)

/** A room with a fan: deep, without tones. */
export const roomNoise = (sound: Sound): Float32Array =>
  atLevel(
    filtered(white(sound), lowPass(400, sound.rateHz, 0.5), highPass(45, sound.rateHz)),
    sound.levelDbfs,
  )

/** A street: a deep bed, and cars that come and go within seconds. */
export function streetNoise(sound: Sound): Float32Array {
  const { rateHz, seed } = sound
  const chance = random(seed + 1)
  const bed = filtered(white(sound), lowPass(600, rateHz, 0.5), highPass(40, rateHz))
  const cars = filtered(white({ ...sound, seed: seed + 2 }), resonance(700, 900, rateHz))
  const passing = Array.from({ length: Math.ceil(sound.lengthS / 4) }, () => ({
    atS: chance() * sound.lengthS,
    widthS: 0.8 + 1.5 * chance(),
    size: 0.5 + chance(),
  }))
  const both = bed.map((sample, index) => {
    const time = index / rateHz
    const gain = passing.reduce(
      (sum, { atS, widthS, size }) => sum + size * Math.exp(-(((time - atS) / widthS) ** 2)),
      0,
    )
    return sample + gain * cars[index]!
  })
  return atLevel(both, sound.levelDbfs)
}

/** A small band: bass, chords, a drum and a hi-hat. */
export function music(sound: Sound): Float32Array {
  const { rateHz, seed } = sound
  const chance = random(seed)
  const noise = normal(random(seed + 1))
  const samples = new Float32Array(framesOf(sound))
  const beatS = 0.4 + 0.2 * chance()
  const roots = [0, 5, 7, 3]
  const keyHz = 41.2 * 2 ** (chance() * 0.9)
  const note = (fromS: number, hz: number, size: number, decayS: number, overtones: number) => {
    const from = Math.round(fromS * rateHz)
    const length = Math.min(samples.length - from, Math.round(4 * decayS * rateHz))
    for (let partial = 1; partial <= overtones && partial * hz < 0.45 * rateHz; partial++) {
      const phase = 2 * Math.PI * chance()
      for (let index = 0; index < length; index++) {
        const time = index / rateHz
        samples[from + index]! +=
          (size / partial) *
          Math.min(1, time / 0.004) *
          Math.exp((-time * Math.sqrt(partial)) / decayS) *
          Math.sin(2 * Math.PI * partial * hz * time + phase)
      }
    }
  }
  for (let beat = 0; beat * beatS < sound.lengthS; beat++) {
    const at = beat * beatS
    const root = keyHz * 2 ** (roots[Math.floor(beat / 4) % 4]! / 12)
    note(at, root, 0.5, 0.25, 6)
    if (beat % 2 === 0) for (const step of [24, 28, 31]) note(at, root * 2 ** (step / 12), 0.2, 0.5, 8)
    if (beat % 2 === 0) note(at, 62, 0.9, 0.09, 1)
    const from = Math.round(at * rateHz)
    for (let index = 0; index < Math.min(0.08 * rateHz, samples.length - from); index++)
      samples[from + index]! += (beat % 2 ? 0.4 : 0.12) * noise() * Math.exp(-index / (0.02 * rateHz))
  }
  return atLevel(samples, sound.levelDbfs)
}

/** Partials of a small bell: share of its frequency, size, time to die away in seconds. */
const partials = [
  [0.5, 0.4, 0.9],
  [1, 1, 0.7],
  [1.19, 0.5, 0.55],
  [1.5, 0.35, 0.45],
  [2, 0.6, 0.35],
  [2.66, 0.25, 0.25],
  [4.1, 0.2, 0.12],
] as const

/** Blows on a bell or an anvil, some seconds apart. */
export function strikes(sound: Sound): Float32Array {
  const { rateHz } = sound
  const chance = random(sound.seed)
  const samples = new Float32Array(framesOf(sound))
  const hz = 300 + 900 * chance()
  for (let at = 0.2 + 0.5 * chance(); at < sound.lengthS; at += 0.6 + 1.4 * chance()) {
    const from = Math.round(at * rateHz)
    const force = 0.4 + 0.6 * chance()
    for (const [share, size, decayS] of partials) {
      const phase = 2 * Math.PI * chance()
      const length = Math.min(samples.length - from, Math.round(6 * decayS * rateHz))
      for (let index = 0; index < length; index++)
        samples[from + index]! +=
          force *
          size *
          Math.min(1, index / (0.0008 * rateHz)) *
          Math.exp(-index / (decayS * rateHz)) *
          Math.sin((2 * Math.PI * hz * share * index) / rateHz + phase)
    }
  }
  return atLevel(samples, sound.levelDbfs)
}
