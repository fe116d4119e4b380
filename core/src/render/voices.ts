import { neverPauses, strikeRiseMs } from '../chain'
import { levelsOf, type Source } from '../model'
import { amplitudeFromDb, sineCrestDb } from '../units'
import { Mouth, stepFrames } from './mouth'
import { beat, fadeS, type Moment, momentAt, riseS, swell } from './timeline'

/** Sound of a source, block by block. 0 dB is its typical level: a sine of amplitude 1 has it. */
export interface Voice {
  fill: (block: Float32Array, fromFrame: number) => void
}

/** Nothing. */
export const silentVoice: Voice = { fill: (block) => void block.fill(0) }

/** A steady sine, some dB over the typical level. */
export const sineVoice = (frequencyHz: number, overDb: number, rateHz: number): Voice => ({
  fill: (block, fromFrame) => {
    const size = amplitudeFromDb(overDb)
    for (let index = 0; index < block.length; index++)
      block[index] = size * Math.sin((2 * Math.PI * frequencyHz * (fromFrame + index)) / rateHz)
  },
})

/** Amplitudes of the moments of a source over its typical level. */
function amplitudesOf(source: Source): Record<Exclude<Moment['effort'], 'pause'>, number> {
  const levels = levelsOf(source)
  return {
    quietest: amplitudeFromDb(levels.quietest - levels.typical),
    typical: 1,
    loudest: amplitudeFromDb(levels.loudest - levels.typical),
  }
}

/** Amplitude of the sine that the peaks of a source reach over its RMS. */
const crestOf = (source: Source): number => amplitudeFromDb(source.crestDb - sineCrestDb)

/** Each source's beat has a different pitch, so that several beats meet in every phase. */
function beatHz(source: Source): number {
  let hash = 7
  for (const letter of source.id) hash = (hash * 31 + letter.charCodeAt(0)) % 97
  return 380 + 4 * hash
}

/**
 * A made-up voice, made of figures; nobody was recorded. Typical, loud and quiet sentences with pauses between, or
 * without for what never pauses. While it sounds its RMS is the level of the moment; each moment begins with its peak,
 * as the source's crest has it, and nothing goes beyond.
 */
export function talkingVoice(source: Source, rateHz: number, seed: number): Voice {
  const amplitudes = amplitudesOf(source)
  const crest = crestOf(source)
  const pitchHz = beatHz(source)
  const unbroken = neverPauses(source)
  const mouth = new Mouth(rateHz, seed)
  const amplitudeOf = (effort: Moment['effort']): number =>
    effort !== 'pause' ? amplitudes[effort] : unbroken ? amplitudes.typical : 0
  /** Amplitude of the voice behind the beat. */
  function sizeIn({ effort, before, sinceS, leftS }: Moment): number {
    // it gives way to the beat, and comes up again as that dies away
    if (sinceS < riseS) return unbroken ? amplitudeOf(before) * (1 - sinceS / riseS) : 0
    return amplitudeOf(effort) * Math.min(swell(sinceS), unbroken ? 1 : leftS / fadeS)
  }
  /** Largest amplitude. */
  const limitIn = ({ effort, before, sinceS }: Moment): number =>
    crest * Math.max(amplitudeOf(effort), unbroken && sinceS < riseS ? amplitudeOf(before) : 0)
  return {
    fill: (block, fromFrame) => {
      for (let from = 0; from < block.length; from += stepFrames) {
        const to = Math.min(block.length, from + stepFrames)
        const timeS = (fromFrame + from) / rateHz
        const moment = momentAt(timeS)
        // the next moment begins within this step
        const ends = moment.leftS < (to - from) / rateHz
        const isPause = amplitudeOf(moment.effort) === 0
        if (isPause) block.fill(0, from, to)
        else mouth.speak(block, from, to, timeS, sizeIn(momentAt((fromFrame + to) / rateHz)))
        if (isPause && !ends) continue
        const beatSize = crest * amplitudeOf(moment.effort)
        const limit = limitIn(moment)
        for (let index = from; index < to; index++) {
          const afterS = (index - from) / rateHz
          const now = ends ? momentAt(timeS + afterS) : moment
          const most = ends ? limitIn(now) : limit
          const struck = ends
            ? crest * amplitudeOf(now.effort) * beat(now.sinceS, pitchHz)
            : beatSize * beat(moment.sinceS + afterS, pitchHz)
          block[index] = Math.max(-most, Math.min(most, block[index]! + struck))
        }
      }
    },
  }
}

/** Partials of a bell: frequency in Hz, size and time to die away in seconds. */
const partials = [
  [430, 1, 0.7],
  [861, 0.5, 0.55],
  [1030, 0.35, 0.45],
  [1720, 0.25, 0.25],
] as const

/** Strikes between remarks: one in each loudest moment, with the peak that it has, and a voice else. */
export function strikingVoice(source: Source, rateHz: number, seed: number): Voice {
  const peak = amplitudesOf(source).loudest * crestOf(source)
  const remarks = talkingVoice(calmed(source), rateHz, seed)
  const sum = partials.reduce((all, [, size]) => all + size, 0)
  const riseFrames = (strikeRiseMs * rateHz) / 1000
  // a partial is a turning arrow that shrinks: one product a sample
  const arrows = partials.map(([hz, size, decayS]) => {
    const shrink = Math.exp(-1 / (decayS * rateHz))
    const angle = (2 * Math.PI * hz) / rateHz
    // turned back and longer by what it turns and shrinks while the blow comes up: then all of them meet at the peak
    const start = (peak * size) / sum / shrink ** riseFrames
    return {
      startX: start * Math.cos(angle * riseFrames),
      startY: -start * Math.sin(angle * riseFrames),
      re: shrink * Math.cos(angle),
      im: shrink * Math.sin(angle),
      x: 0,
      y: 0,
    }
  })
  let struck = false
  let since = 0
  return {
    fill: (block, fromFrame) => {
      remarks.fill(block, fromFrame)
      for (let index = 0; index < block.length; index++) {
        const loud = momentAt((fromFrame + index) / rateHz).effort === 'loudest'
        if (loud && !struck)
          for (const arrow of arrows) {
            arrow.x = arrow.startX
            arrow.y = arrow.startY
          }
        since = loud && !struck ? 0 : since + 1
        struck = loud
        // nobody speaks while it rings
        if (loud) block[index] = 0
        for (const arrow of arrows) {
          block[index]! += arrow.x * Math.min(1, since / riseFrames)
          const x = arrow.re * arrow.x - arrow.im * arrow.y
          arrow.y = arrow.im * arrow.x + arrow.re * arrow.y
          arrow.x = x
        }
      }
    },
  }
}

/** The same source, its loudest moment as its typical one. */
function calmed(source: Source): Source {
  if (source.kind === 'line')
    return { ...source, levelsDbu: { ...source.levelsDbu, loudest: source.levelsDbu.typical } }
  return { ...source, levelsDba: { ...source.levelsDba, loudest: source.levelsDba.typical } }
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
