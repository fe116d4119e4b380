import { recordedPeakDb, type Run } from '../levels'
import type { CeilingShape } from '../model'
import { shownDb, signed } from '../units'

const pressed: Record<CeilingShape, string> = { flat: 'cut', bent: 'bent', sagging: 'cut' }

/** The peaks of a run as a reading: no file holds more than full scale, unless it is of floating point, or than a ceiling on the way lets through. */
export function peakWords({ peakDb, end, tightest }: Pick<Run, 'peakDb' | 'end'> & Partial<Run>): string {
  if (end.kind === 'listen') return `${signed(peakDb)} dB SPL`
  const recordedDb = recordedPeakDb({ peakDb, tightest })
  const overDb = peakDb - recordedDb
  if (overDb > shownDb && recordedDb < -shownDb)
    return `${pressed[tightest!.ceiling.shape]} at ${signed(recordedDb)} dBFS, ${signed(overDb)} dB too hot`
  if (peakDb <= shownDb) return `${signed(peakDb)} dBFS`
  return end.aim.floating && overDb <= shownDb
    ? `+${signed(peakDb)} dBFS`
    : `cut at full scale, ${signed(peakDb)} dB too hot`
}
