import type { Run } from '../levels'
import { shownDb, signed } from '../units'

/** The peaks of a run as a reading: no file holds more than full scale, unless it is of floating point. */
export function peakWords({ peakDb, end }: Pick<Run, 'peakDb' | 'end'>): string {
  if (end.kind === 'listen') return `${signed(peakDb)} dB SPL`
  if (peakDb <= shownDb) return `${signed(peakDb)} dBFS`
  return end.aim.floating ? `+${signed(peakDb)} dBFS` : `cut at full scale, ${signed(peakDb)} dB too hot`
}
