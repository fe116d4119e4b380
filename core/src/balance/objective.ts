import type { GearKind, Plan } from '../model'
import { type Levels, outsideDb, windowOf } from '../levels'

/** What a set of positions is worth. Compared from the first figure to the last; figures count to 0.1 dB. */
export interface Score {
  /** Headroom missing to the asked margin, dB; 0 when every ceiling keeps it. */
  overDb: number
  /** How far the worst recording's peaks lie outside the window, dB. */
  outsideDb: number
  /** Speech-to-noise of the worst recording that counts, dB. */
  speechToNoiseDb: number
  /** The smallest headroom of all ceilings, dB. */
  headroomDb: number
  /** Controls moved from where they stand. */
  changes: number
}

/**
 * A figure as it counts, in tenths of a dB. Tenths are what the interface shows; finer differences decide nothing.
 * The nudge keeps figures that fall exactly between two tenths from being torn apart by rounding errors.
 */
export const tenths = (db: number): number => (Number.isFinite(db) ? Math.round(db * 10 + 1e-5) : db)

/** Negative when `one` is better than `other`, 0 when they are worth the same. */
export function compareScores(one: Score, other: Score): number {
  return (
    compare(tenths(one.overDb), tenths(other.overDb)) ||
    compare(tenths(one.outsideDb), tenths(other.outsideDb)) ||
    compare(tenths(other.speechToNoiseDb), tenths(one.speechToNoiseDb)) ||
    compare(tenths(other.headroomDb), tenths(one.headroomDb)) ||
    one.changes - other.changes
  )
}

const compare = (one: number, other: number): number => (one === other ? 0 : one < other ? -1 : 1)

/** Whether a recording on a box of this kind is one that counts for the plan. */
export const counts = (plan: Plan, kind: GearKind | string): boolean =>
  plan.keeper === 'both good' || (plan.keeper === 'camera only') === (kind === 'camera')

/** The score of levels as they stand: of their recordings. If none is of the kind that counts, all of them do. */
export function scoreOf(levels: Levels, plan: Plan, changes: number): Score {
  const recordings = levels.runs.filter(({ end }) => end.kind === 'recording')
  const counted = recordings.filter(({ end }) => counts(plan, end.gearKind))
  const headroomDb = Math.min(...recordings.map(({ tightest }) => tightest?.ceiling.headroomDb ?? Infinity))
  return {
    overDb: Math.max(0, plan.marginDb - headroomDb),
    outsideDb: Math.max(
      0,
      ...recordings.map((run) => outsideDb(windowOf(plan.school, run.end.aim), run.peakDb)),
    ),
    speechToNoiseDb: Math.min(...(counted.length ? counted : recordings).map((run) => run.speechToNoiseDb)),
    headroomDb,
    changes,
  }
}
