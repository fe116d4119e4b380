import type { ClipRange, TimeRange } from '../model'
import type { Finding } from './finding'

/** In how many places something is, and where first. */
interface Places {
  places: number
  firstS: number
}
/** The second channel of a pair beside the first. */
interface Pair {
  other: number
  differenceDb: number
}

/** Findings about a clip, by code. */
export interface ClipFigures {
  clip: Places & { shape: ClipRange['shape']; levelDbfs: number }
  silence: object
  'low level': { peakDbfs: number; floating: boolean }
  hum: { mainsHz: number; levelDbfs: number; underSpeechDb: number }
  wind: Places & { levelDbfs: number }
  pop: Places & { levelDbfs: number }
  pumping: Places & { risesDb: number; releaseS: number }
  dropout: Places & { longestS: number }
  rustle: Places & { totalS: number }
  click: Places & { levelDbfs: number }
  'channels equal': Pair
  'channels unequal': Pair
  'channels opposite': Pair
  'channels delayed': Pair & { delayMs: number }
  'one channel silent': Pair
}

/** Something a clip was found to have: where in it, and how sure, 0 to 1. */
export type ClipFinding = {
  [Code in keyof ClipFigures]: Finding<Code, ClipFigures[Code]> & {
    ranges: readonly TimeRange[]
    confidence: number
  }
}[keyof ClipFigures]
