import type { ChannelMeasurement } from '../model'
import { recordedPeakDb, type Run } from '../levels'

/** One figure as predicted and as measured. */
export interface Comparison {
  figure: 'loudest peak' | 'typical speech' | 'noise in the pauses' | 'speech-to-noise'
  unit: string
  predicted: number
  measured: number | null
  differenceDb: number | null
  /** Direction of a deviation beyond the natural spread of voices and rooms; left out: within it. */
  off?: 'high' | 'low'
  /** Why nothing is measured here: a source plays on in the pauses, or there are no pauses. */
  covered?: { by: string | undefined }
}

/** Natural difference of one voice from day to day, dB. */
const naturalSpreadDb = 3

/** Recorded against planned figures, for one channel. */
export function compareWithRun(measured: ChannelMeasurement, run: Run): Comparison[] {
  const covered =
    run.playsOn !== undefined
      ? { by: run.playsOn }
      : measured.noiseDbfsA !== null && !measured.pauses
        ? { by: undefined }
        : undefined
  const noiseDb = covered ? null : measured.noiseDbfsA
  const ratio = measured.speechDbfsA === null || noiseDb === null ? null : measured.speechDbfsA - noiseDb
  const row = (
    figure: Comparison['figure'],
    unit: string,
    predicted: number,
    value: number | null,
  ): Comparison => {
    const differenceDb = value === null ? null : value - predicted
    const far = differenceDb !== null && Math.abs(differenceDb) > naturalSpreadDb
    return {
      figure,
      unit,
      predicted,
      measured: value,
      differenceDb,
      ...(far && { off: differenceDb > 0 ? ('high' as const) : ('low' as const) }),
    }
  }
  return [
    row('loudest peak', 'dBFS', recordedPeakDb(run), measured.peakDbfs),
    row('typical speech', 'dBFS(A)', run.typicalDb, measured.speechDbfsA),
    { ...row('noise in the pauses', 'dBFS(A)', run.noiseWithPlaceDb, noiseDb), ...(covered && { covered }) },
    row('speech-to-noise', 'dB', run.speechToNoiseDb, ratio),
  ]
}
