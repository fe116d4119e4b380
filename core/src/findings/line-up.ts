import type { CeilingShape } from '../model'
import type { Finding } from './finding'

/** Findings about a line-up reading, by code. */
export interface LineUpFigures {
  'as planned': { differenceDb?: number }
  'sent otherwise': { levelDbfs: number; differenceDb: number }
  'missing step': { boxName: string }
  'two cameras': { otherName: string; differenceDb: number }
  'other level': { differenceDb: number; boxName: string }
  'hidden overload': { ceilingDbfs: number; ceilingDbu: number; plannedDbu: number; shape: CeilingShape }
  'no overload': { upToDbu: number }
  'file clips': { levelDbfs: number }
  'voice overloads': { levelDbfs: number; shape: CeilingShape }
  'clipped at source': { levelDbfs: number }
  'no tone': { noiseDbfs: number | null }
  'other setting': { controlName: string; said: string; likely: string }
  outlier: { offDb: number }
  falls: { controlName: string; low: string; high: string }
  'floor found': { noiseDbfsA: number; differenceDb: number }
  'floor not told apart': { position: string; controlName: string; wantsKnownTone: boolean }
  'automatic gain': {
    targetDbfs: number
    releaseS: number | null
    holdS: number | null
    attackS: number | null
  }
  'no automatic gain': object
  'no bursts': object
  'peaks as planned': { peakDbfs: number }
  'peaks off': { peakDbfs: number; byDb: number; controlName?: string; position?: string }
  'channel dead': { tracks: string[]; causes: DeadCause[] }
  'channels swapped': { expected: string[]; moved: string[]; other?: string }
  'channel doubled': { also: string[]; causes: DoubleCause[] }
  'mark mapped': { markName: string; levelDbfs: number; plannedDbfs: number }
}
export type LineUpCode = keyof LineUpFigures

/** Why nothing moves, the likeliest first. */
export type DeadCause =
  | { kind: 'wiring'; sentence: string }
  | { kind: 'power'; partName: string }
  | { kind: 'input switch'; partName: string; controlName: string; positionName: string }
  | { kind: 'radio channel'; partName: string }
  | { kind: 'plug'; partName: string }
/** Why one microphone moves two channels. */
export type DoubleCause =
  | { kind: 'copy switch'; partName: string; controlName: string }
  | { kind: 'mono mode'; partName: string }
  | { kind: 'lead'; partName: string }

/** Meaning of a reading. */
export type LineUpFinding = {
  [Code in LineUpCode]: Finding<Code, LineUpFigures[Code]>
}[LineUpCode]
