import type { School } from '../model'

/** Where the loudest peaks of a recording should lie, dBFS. */
export interface PeakWindow {
  lowestDbfs: number
  highestDbfs: number
}

/** Schools of practice. `float` speaks of floating-point tracks; its other tracks keep to the usual window. */
const peakWindows: Record<School, PeakWindow> = {
  cautious: { lowestDbfs: -20, highestDbfs: -17 },
  usual: { lowestDbfs: -15, highestDbfs: -12 },
  full: { lowestDbfs: -10, highestDbfs: -6 },
  float: { lowestDbfs: -15, highestDbfs: -12 },
}

/** A floating-point track keeps every ratio at any level: it only must not be absurd. */
const floatingWindow: PeakWindow = { lowestDbfs: -60, highestDbfs: -6 }

/** What a track says about where its peaks belong. */
export interface TrackAim {
  floating: boolean
  /** A safety track is this much lower on purpose, dB. */
  lowerDb: number
}

/** The window of a track. */
export function windowOf(school: School, { floating, lowerDb }: TrackAim): PeakWindow {
  const { lowestDbfs, highestDbfs } = floating ? floatingWindow : peakWindows[school]
  return { lowestDbfs: lowestDbfs - lowerDb, highestDbfs: highestDbfs - lowerDb }
}

/** How far a peak lies outside a window, dB; 0 inside. */
export const outsideDb = (window: PeakWindow, peakDb: number): number =>
  Math.max(0, window.lowestDbfs - peakDb, peakDb - window.highestDbfs)

/** The loudest typical level at the ear that is left alone, dB SPL: fit for a working day. */
export const safeListeningDbSpl = 85
