import { plannedPauseS, voiceRiseMs } from '../chain'
import { lastOf } from '../model'

/** How loud things are at a moment of a rendering, and since when. */
export interface Moment {
  effort: 'quietest' | 'typical' | 'loudest' | 'pause'
  /** How loud they were before. */
  before: Moment['effort']
  sinceS: number
  leftS: number
}

interface Passage {
  seconds: number
  effort: Moment['effort']
}

/**
 * What every rendering tells over and over: somebody has just spoken, pauses for as long as the plan reckons with, and
 * then everything is at its loudest at once, sources and place alike.
 */
const passages: readonly [Passage, ...Passage[]] = [
  { seconds: 2.2, effort: 'typical' },
  { seconds: plannedPauseS, effort: 'pause' },
  { seconds: 1.6, effort: 'loudest' },
  { seconds: 1.1, effort: 'pause' },
  { seconds: 1.8, effort: 'quietest' },
  { seconds: 1.1, effort: 'pause' },
  { seconds: 2.4, effort: 'typical' },
  { seconds: 1.1, effort: 'pause' },
]
export const roundS = passages.reduce((sum, { seconds }) => sum + seconds, 0)

/** The first loudest moment of a rendering, from and to, seconds. */
export const loudestS = { from: 2.2 + plannedPauseS, to: 2.2 + plannedPauseS + 1.6 } as const

/** Allowance for rounding, s: a moment that begins with a sample has begun. */
const roundedS = 1e-9

export function momentAt(timeS: number): Moment {
  let within = timeS % roundS
  let before = lastOf(passages).effort
  for (const { seconds, effort } of passages) {
    if (within < seconds - roundedS)
      return { effort, before, sinceS: Math.max(0, within), leftS: seconds - within }
    within -= seconds
    before = effort
  }
  const [{ effort, seconds }] = passages
  return { effort, before, sinceS: 0, leftS: seconds }
}

/** The first beat of a moment: how long it takes to come to its peak and how fast it dies away, seconds. */
export const riseS = voiceRiseMs / 1000
const beatS = 0.015

/** The beat that a moment begins with: it swells to its peak of 1, then dies away in a few swings. */
export function beat(sinceS: number, frequencyHz: number): number {
  const afterS = sinceS - riseS
  if (afterS > 8 * beatS) return 0
  const size = afterS < 0 ? sinceS / riseS : Math.exp(-afterS / beatS)
  return size * Math.cos(2 * Math.PI * frequencyHz * afterS)
}

/** Fade-in of what starts after the first beat, s. */
export const fadeS = 0.03

/** How far it has come up. */
export const swell = (sinceS: number): number => Math.max(0, Math.min(1, (sinceS - riseS) / fadeS))
