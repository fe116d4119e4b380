import { amplitudeFromDb } from '../units'
import { tone } from './sounds'
import { normal, random } from './random'

/** Sounds that a chain is lined up with. */
export const testSignalKinds = ['tone', 'steps', 'sweep', 'pink noise', 'bursts', 'polarity click'] as const
export type TestSignalKind = (typeof testSignalKinds)[number]

/** A sound to line up with, and its level: that of its loudest part, as a sine of this peak has it. */
export interface TestSignal {
  kind: TestSignalKind
  levelDbfs: number
}

/** Of the tone, the steps and the bursts: nearly 1 kHz, and such that samples fall on every phase of it (AES17, 997 Hz). */
export const toneHz = 997
const fadeS = 0.01
const toneS = 5
/** The stepped tone rises from so far under its level, in so many steps, each so long. */
const stepsFromDb = -48
const stepDb = 6
const stepS = 1
const sweepS = 10
const sweepHz = [20, 20_000] as const
const pinkS = 10
/** Noise peaks so far over its RMS that it is kept within full scale. */
const pinkCrestDb = 12
/** The burst: quiet for so long, loud for so long, quiet again until even a slow release has come back. */
export const burstS = { quiet: 4, loud: 3, after: 12 } as const
/** The quiet part is so far under the loud one: much further than automatic gain needs to tell them apart. */
export const burstQuietDb = -30
const clickEveryS = 1
const clicks = 6
const clickS = 0.001

/** The samples of a test signal; full scale is 1. */
export function testSignal({ kind, levelDbfs }: TestSignal, rateHz: number): Float32Array {
  switch (kind) {
    case 'tone':
      return faded(tone(toneHz, levelDbfs, toneS, rateHz), rateHz)
    case 'steps': {
      const count = Math.round(-stepsFromDb / stepDb) + 1
      const levels = Array.from({ length: count }, (_, index) => ({
        db: levelDbfs + stepsFromDb + index * stepDb,
        forS: stepS,
      }))
      return faded(levelled(levels, rateHz), rateHz)
    }
    case 'bursts':
      return faded(
        levelled(
          [
            { db: levelDbfs + burstQuietDb, forS: burstS.quiet },
            { db: levelDbfs, forS: burstS.loud },
            { db: levelDbfs + burstQuietDb, forS: burstS.after },
          ],
          rateHz,
        ),
        rateHz,
      )
    case 'sweep':
      return faded(sweep(levelDbfs, rateHz), rateHz)
    case 'pink noise':
      return faded(pinkNoise(levelDbfs - pinkCrestDb, pinkS, rateHz, 3), rateHz)
    case 'polarity click':
      return clicksOf(levelDbfs, rateHz)
  }
}

/** A sine that changes its level without changing its phase. */
function levelled(levels: readonly { db: number; forS: number }[], rateHz: number): Float32Array {
  const whole = tone(
    toneHz,
    0,
    levels.reduce((sum, { forS }) => sum + forS, 0),
    rateHz,
  )
  let from = 0
  for (const { db, forS } of levels) {
    const to = Math.min(whole.length, from + Math.round(forS * rateHz))
    for (let frame = from; frame < to; frame++) whole[frame]! *= amplitudeFromDb(db)
    from = to
  }
  return whole
}

/** A sine whose frequency rises by the same ratio in equal times (Farina 2000). */
function sweep(levelDbfs: number, rateHz: number): Float32Array {
  const [fromHz, toHz] = sweepHz
  const ratio = Math.log(Math.min(toHz, 0.45 * rateHz) / fromHz)
  const turns = (2 * Math.PI * fromHz * sweepS) / ratio
  return Float32Array.from(
    { length: Math.round(sweepS * rateHz) },
    (_, frame) =>
      amplitudeFromDb(levelDbfs) * Math.sin(turns * (Math.exp((frame / rateHz / sweepS) * ratio) - 1)),
  )
}

/**
 * Pink noise from white by three poles and zeros (P. Kellet's economy filter, within 0.5 dB from 40 Hz upwards), brought to
 * an RMS re a full-scale sine.
 */
export function pinkNoise(levelDbfs: number, lengthS: number, rateHz: number, seed: number): Float32Array {
  const next = normal(random(seed))
  const states = [0, 0, 0]
  const samples = Float32Array.from({ length: Math.round(lengthS * rateHz) }, () => {
    const white = next()
    states[0] = 0.99765 * states[0]! + white * 0.099046
    states[1] = 0.963 * states[1]! + white * 0.2965164
    states[2] = 0.57 * states[2]! + white * 1.0526913
    return states[0] + states[1] + states[2] + white * 0.1848
  })
  const square = samples.reduce((sum, sample) => sum + sample * sample, 0)
  const scale = amplitudeFromDb(levelDbfs) / Math.sqrt((2 * square) / samples.length)
  return samples.map((sample) => Math.max(-1, Math.min(1, sample * scale)))
}

/** Single half waves, all of them upwards: a chain that turns the signal over shows them downwards. */
function clicksOf(levelDbfs: number, rateHz: number): Float32Array {
  const samples = new Float32Array(clicks * clickEveryS * rateHz)
  const length = Math.round(clickS * rateHz)
  for (let click = 0; click < clicks; click++) {
    const from = Math.round((click + 0.5) * clickEveryS * rateHz)
    for (let frame = 0; frame < length; frame++)
      samples[from + frame] = amplitudeFromDb(levelDbfs) * Math.sin((Math.PI * (frame + 0.5)) / length)
  }
  return samples
}

/** Fades a sound in and out, so that neither end clicks. */
function faded(samples: Float32Array, rateHz: number): Float32Array {
  const length = Math.round(fadeS * rateHz)
  for (let frame = 0; frame < length; frame++) {
    samples[frame]! *= frame / length
    samples[samples.length - 1 - frame]! *= frame / length
  }
  return samples
}
