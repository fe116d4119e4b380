import { recordedPeakDb, type Run } from '../levels'
import type { CeilingShape } from '../model'
import { shownDb, signed } from '../units'

const pressed: Record<CeilingShape, string> = { flat: 'cut', bent: 'bent', sagging: 'cut' }

/** The peaks of a run as a reading: no file holds more than full scale, unless it is of floating point, or than a ceiling on the way lets through. */
export function peakWords(
  run: Pick<Run, 'peakDb' | 'end'> & Partial<Pick<Run, 'points' | 'tightest'>>,
): string {
  const { peakDb, end, tightest, points = [] } = run
  if (end.kind === 'listen') return `${signed(peakDb)} dB SPL`
  const recordedDb = recordedPeakDb({ peakDb, points, tightest })
  const isPressed = tightest && peakDb - recordedDb > shownDb
  if (isPressed && recordedDb < -shownDb)
    return `${signed(recordedDb)} dBFS, ${pressed[tightest.ceiling.shape]} by ${signed(-tightest.ceiling.headroomDb)} dB`
  if (peakDb <= shownDb) return `${signed(peakDb)} dBFS`
  return end.aim.floating && !isPressed
    ? `+${signed(peakDb)} dBFS`
    : `cut at full scale, ${signed(peakDb)} dB too hot`
}
