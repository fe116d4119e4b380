import type { Counting, PeakTarget } from '../model'

/** The change that cures a chain, with names for its description. */
export type CureChange =
  | { kind: 'unlock'; control: string; box: string }
  | { kind: 'place'; box: string; place: string }
  | { kind: 'insert'; thing: string; between: [from: string, to: string]; replaces?: string }
  | { kind: 'swap'; thing: string; replaces: string }
  | { kind: 'peak target'; peakTarget: PeakTarget }
  | { kind: 'margin'; marginDb: number; beforeDb: number }
  | { kind: 'counting'; counts: Counting }
