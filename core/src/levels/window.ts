import type { Plan, PeakTarget } from '../model'

/** Where the loudest peaks of a recording should lie, dBFS. */
export interface PeakWindow {
  lowestDbfs: number
  highestDbfs: number
}

/** Windows of the peak targets, for meters with numbers. */
export const peakWindows: Record<PeakTarget, PeakWindow> = {
  cautious: { lowestDbfs: -20, highestDbfs: -17 },
  usual: { lowestDbfs: -15, highestDbfs: -12 },
  'a little over': { lowestDbfs: -12, highestDbfs: -9 },
  full: { lowestDbfs: -10, highestDbfs: -6 },
  hot: { lowestDbfs: -10, highestDbfs: 0 },
  'under the mark': { lowestDbfs: -15, highestDbfs: -12 },
  float: { lowestDbfs: -15, highestDbfs: -12 },
}
/** Room left below the mark by peaks that are just under it, dB. */
const underMarkDb = 3

/** The window for a recording's peaks, relative to its meter's marks where the target uses them. */
const windowOf = (target: PeakTarget, { markDbfs }: TrackAim): PeakWindow =>
  target === 'under the mark' && markDbfs !== undefined
    ? { lowestDbfs: markDbfs - underMarkDb, highestDbfs: markDbfs }
    : peakWindows[target]

/** Data of a track that decide where its peaks belong. */
export interface TrackAim {
  floating: boolean
  /** A safety track is this much lower on purpose, dB. */
  lowerDb: number
  /** Where the first mark of its meter over the lowest is reached, dBFS; left out where the meter has numbers. */
  markDbfs?: number
}

/** A recording as the plan sees it. */
export interface Recording {
  /** Kind of the box that records. */
  gearKind: string
  aim: TrackAim
  /** Automatic gain acts on the way to it: the box sets the level itself. */
  automatic: boolean
}

/** Requirements of the plan for one recording. */
export interface Asked {
  /** It counts; any other is a backup or a guide. */
  counts: boolean
  /** Where its peaks belong; undefined where anything will do that does not clip. */
  window: PeakWindow | undefined
  /** Its ceilings must be kept. */
  ceilings: boolean
  /** Automatic gain sets its level. */
  automatic: boolean
}

/**
 * What a plan asks of the recordings of a chain, in their order. What does not count has no window; its ceilings stay,
 * for a clipped backup is no backup, unless the plan lets go of them. If none is of the kind that counts, all of them
 * do. A floating-point track has no window: its level is set afterwards. The float target goes further: where such a
 * track counts, the fixed ones beside it are guides, and lose their window too. Where automatic gain acts the box sets
 * the level, and there is none to ask for.
 */
export function askedOf(plan: Plan, recordings: readonly Recording[]): Asked[] {
  const ofKind = (kind: string) =>
    plan.counts === 'both good' || (plan.counts === 'camera only') === (kind === 'camera')
  const someCount = recordings.some(({ gearKind }) => ofKind(gearKind))
  const counted = recordings.map(({ gearKind }) => !someCount || ofKind(gearKind))
  const floats =
    plan.peakTarget === 'float' && recordings.some(({ aim }, index) => counted[index] && aim.floating)
  return recordings.map(({ aim, automatic }, index): Asked => {
    const counts = counted[index]!
    return {
      counts,
      window:
        !counts || aim.floating || floats || automatic
          ? undefined
          : lowered(windowOf(plan.peakTarget, aim), aim.lowerDb),
      ceilings: counts || !plan.backupsMayClip,
      automatic,
    }
  })
}

const lowered = ({ lowestDbfs, highestDbfs }: PeakWindow, byDb: number): PeakWindow => ({
  lowestDbfs: lowestDbfs - byDb,
  highestDbfs: highestDbfs - byDb,
})

/** Distance of a peak from a window, dB; 0 inside it and where there is no window. */
export const outsideDb = (window: PeakWindow | undefined, peakDb: number): number =>
  window ? Math.max(0, window.lowestDbfs - peakDb, peakDb - window.highestDbfs) : 0

/** Highest typical level at the ear without a warning, dB SPL: safe for a working day. */
export const safeListeningDbSpl = 85

/** Level at the ear below which faults go unheard, dB SPL: conversation across a table. */
export const softListeningDbSpl = 55
