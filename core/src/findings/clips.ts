import type { ClipRange } from '../model'
import type { FindingOf } from './finding'

/** What the samples of a clip can have to say, by code. */
export interface ClipFigures {
  clip: { shape: ClipRange['shape']; places: number; firstS: number; levelDbfs: number }
  silence: object
  'low level': { peakDbfs: number }
}
export type ClipFinding = FindingOf<ClipFigures>
