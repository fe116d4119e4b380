import { amplitudeFromDb, flatNoiseAWeightingDb } from '../units'
import { normal, random } from './random'

/** Amplitude (peak) of a sine of a given level in dBFS: full scale is 1. */
const sineAmplitude = (levelDbfs: number): number => amplitudeFromDb(levelDbfs)

/** A sine, `lengthS` long. */
export const tone = (frequencyHz: number, levelDbfs: number, lengthS: number, rateHz: number): Float32Array =>
  Float32Array.from(
    { length: Math.round(lengthS * rateHz) },
    (_, frame) => sineAmplitude(levelDbfs) * Math.sin((2 * Math.PI * frequencyHz * frame) / rateHz),
  )

/** White noise whose A-weighted level re a full-scale sine is as given. */
export function noise(levelDbfsA: number, lengthS: number, rateHz: number, seed: number): Float32Array {
  const rms = amplitudeFromDb(levelDbfsA - flatNoiseAWeightingDb(rateHz / 2, 0.5)) / Math.SQRT2
  const next = normal(random(seed))
  return Float32Array.from({ length: Math.round(lengthS * rateHz) }, () => rms * next())
}

/** Contents of a synthetic clip. Levels as they should be measured. */
export interface TalkingClip {
  typicalDbfs: number
  noiseDbfsA: number
  /** Level to which the loudest moment is cut, dBFS peak; left out: nothing is cut. */
  cutAtDbfs?: number
  /** Peak that the loudest moment would have reached, dBFS. */
  loudestPeakDbfs: number
  lengthS: number
  rateHz: number
  seed: number
}

/**
 * A clip that stands in for somebody talking: 1 kHz bursts with a syllable's rhythm at the typical level, pauses
 * of noise between them, and one loud strike. Made from figures only, so that what is measured can be checked.
 */
export function talkingClip(clip: TalkingClip): Float32Array {
  const { lengthS, rateHz } = clip
  const samples = noise(clip.noiseDbfsA, lengthS, rateHz, clip.seed)
  const voice = sineAmplitude(clip.typicalDbfs)
  const sentenceS = 2.4
  const speakingS = 1.5
  const strikeS = { from: speakingS + 0.25 + sentenceS, to: speakingS + 0.45 + sentenceS }
  for (let frame = 0; frame < samples.length; frame++) {
    const time = frame / rateHz
    if (time % sentenceS < speakingS) samples[frame]! += voice * Math.sin(2 * Math.PI * 1000 * time)
    if (time >= strikeS.from && time < strikeS.to) {
      const decay = Math.exp(-(time - strikeS.from) / 0.05)
      samples[frame]! +=
        sineAmplitude(clip.loudestPeakDbfs) * decay * Math.cos(2 * Math.PI * 700 * (time - strikeS.from))
    }
  }
  const limit = Math.min(1, clip.cutAtDbfs === undefined ? 1 : amplitudeFromDb(clip.cutAtDbfs))
  return samples.map((sample) => Math.max(-limit, Math.min(limit, sample)))
}
