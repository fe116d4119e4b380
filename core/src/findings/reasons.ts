import type { PeakTarget } from '../model'

/** Why Balance ends where it ends, by code, with the figures it rests on. `point` and `track` are names. */
export interface ReasonFigures {
  /** A supply that something needs was switched on. */
  powered: { supply: string; box: string; outputs: string[] }
  'nothing heard': object
  'all locked': object
  'no control': object
  /** A ceiling that no setting, or none tried, stays under; at the microphone itself no pad behind it can help. */
  over: {
    point: string
    partName: string
    overDb: number
    marginDb: number
    atMicrophone: boolean
    isProved: boolean
  }
  outside: {
    peakTarget: PeakTarget
    outsideDb: number
    /** Why the peaks are outside: steps too coarse, range too short, or nothing to turn. Unknown unless all settings were tried. */
    because: 'coarse steps' | 'short range' | 'nothing to turn' | 'not known'
  }
  binding: { point: string; headroomDb: number }
  place: { track: string; overBoxesDb: number }
  hiss: { track: string; biggest?: { point: string; share: number } }
  /** The search ended early: how much clearer another setting may be at most. */
  unproved: { mayGainDb: number }
  /** A margin that keeps clipping rare. */
  safer: { marginDb: number; clipping: number; leavesOutAutomatic: boolean }
}

/** One reason. Balance says several, the most important first. */
export type Reason = {
  [Code in keyof ReasonFigures]: { code: Code; figures: ReasonFigures[Code] }
}[keyof ReasonFigures]

/** A reason of a code with its figures. */
export const reason = <Code extends keyof ReasonFigures>(code: Code, figures: ReasonFigures[Code]): Reason =>
  ({ code, figures }) as Reason
