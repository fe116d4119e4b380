import type { School } from '../model'

/** Where the loudest peaks of a recording should lie, dBFS. */
export interface PeakWindow {
  lowestDbfs: number
  highestDbfs: number
}

/** Schools of practice. A floating-point track needs no aim of its own under `float`: only analogue parts clip. */
export const peakWindows: Record<School, PeakWindow> = {
  cautious: { lowestDbfs: -20, highestDbfs: -17 },
  usual: { lowestDbfs: -15, highestDbfs: -12 },
  full: { lowestDbfs: -10, highestDbfs: -6 },
  float: { lowestDbfs: -45, highestDbfs: -12 },
}

/** The window of a track: under `float`, tracks that are not floating point keep to the usual one. */
export const windowOf = (school: School, floating: boolean): PeakWindow =>
  school === 'float' && !floating ? peakWindows.usual : peakWindows[school]

/** How far a peak lies outside a window, dB; 0 inside. */
export const outsideDb = (window: PeakWindow, peakDb: number): number =>
  Math.max(0, window.lowestDbfs - peakDb, peakDb - window.highestDbfs)

/** The loudest typical level at the ear that is left alone, dB SPL: fit for a working day. */
export const safeListeningDbSpl = 85
