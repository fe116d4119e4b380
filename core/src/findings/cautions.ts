import type { FindingOf } from './finding'

/** The usual cautions, by code. */
export interface CautionFigures {
  ears: object
  desk: object
  mains: object
  phantom: object
  radio: object
  consent: object
  runs: { longestM: number }
  machines: object
}
export type Caution = FindingOf<CautionFigures>
