/** Score of a set of positions. Compared from the first figure to the last; levels count to 0.1 dB. */
export interface Score {
  /** For every recording the headroom missing to the asked margin, the worst first, dB; 0 where every ceiling keeps it. */
  overDb: number[]
  /** Distance of each recording's peaks from its window, the worst first, dB. */
  outsideDb: number[]
  /** Speech-to-noise of every recording that counts, the worst first, dB. */
  speechToNoiseDb: number[]
  /** The same over the noise of the boxes alone: what the noise of the place may hide. */
  overBoxesDb: number[]
  /** The smallest headroom of all ceilings, dB. */
  headroomDb: number
  /** Number of controls moved. */
  changes: number
}

/**
 * A figure as it counts, in tenths of a dB. Tenths are what the interface shows; finer differences decide nothing.
 * The nudge keeps figures that fall exactly between two tenths from being torn apart by rounding errors.
 */
export const tenths = (db: number): number => (Number.isFinite(db) ? Math.round(db * 10 + 1e-5) : db)

const compare = (one: number, other: number): number => (one === other ? 0 : one < other ? -1 : 1)

/** Negative when the first of two lists is better: by its worst, which comes first, then by its next worst, and so on. */
export function compareWorstFirst(one: readonly number[], other: readonly number[]): number {
  for (let index = 0; index < one.length; index++) {
    const found = compare(tenths(other[index]!), tenths(one[index]!))
    if (found !== 0) return found
  }
  return 0
}

/** The same of lists of what is missing: less is better. */
export function compareMissing(one: readonly number[], other: readonly number[]): number {
  for (let index = 0; index < one.length; index++) {
    const found = compare(tenths(one[index]!), tenths(other[index]!))
    if (found !== 0) return found
  }
  return 0
}

/** Negative if `one` has the smaller shortfall. */
export const compareDemands = (one: Score, other: Score): number =>
  compareMissing(one.overDb, other.overDb) || compareMissing(one.outsideDb, other.outsideDb)

/** Negative when `one` is better than `other`, 0 when they are worth the same. */
export const compareScores = (one: Score, other: Score): number =>
  compareDemands(one, other) ||
  compareWorstFirst(one.speechToNoiseDb, other.speechToNoiseDb) ||
  compareWorstFirst(one.overBoxesDb, other.overBoxesDb) ||
  compare(tenths(other.headroomDb), tenths(one.headroomDb)) ||
  one.changes - other.changes

/** Speech-to-noise of the worst recording that counts; Infinity when none does. */
export const worstRatioDb = ({ speechToNoiseDb }: Score): number => speechToNoiseDb[0] ?? Infinity

/** Shortfall of the worst recording from its margin, and from its window, dB. */
export const worstOverDb = ({ overDb }: Score): number => overDb[0] ?? 0
export const worstOutsideDb = ({ outsideDb }: Score): number => outsideDb[0] ?? 0

/** Whether every demand is met. */
export const meetsDemands = (score: Score): boolean =>
  tenths(worstOverDb(score)) === 0 && tenths(worstOutsideDb(score)) === 0

export const worstFirst = (figures: readonly number[]): number[] =>
  [...figures].sort((one, other) => one - other)
export const mostFirst = (figures: readonly number[]): number[] =>
  [...figures].sort((one, other) => other - one)
