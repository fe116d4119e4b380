import type { ChannelMeasurement } from '../model'
import type { Run } from '../levels'

/** One figure as predicted and as measured. */
export interface Comparison {
  figure: 'loudest peak' | 'typical speech' | 'noise in the pauses' | 'speech-to-noise'
  unit: string
  predicted: number
  measured: number | null
  differenceDb: number | null
  /** What the difference hints at; empty when it is within what voices and rooms do by themselves. */
  hint: string
}

/** Differences a person makes by speaking another day. */
const naturalSpreadDb = 3

/** What was recorded beside what the plan said, for one channel. */
export function compareWithRun(measured: ChannelMeasurement, run: Run): Comparison[] {
  const ratio =
    measured.speechDbfsA === null || measured.noiseDbfsA === null
      ? null
      : measured.speechDbfsA - measured.noiseDbfsA
  const row = (
    figure: Comparison['figure'],
    unit: string,
    predicted: number,
    value: number | null,
    high: string,
    low: string,
  ): Comparison => {
    const differenceDb = value === null ? null : value - predicted
    const far = differenceDb !== null && Math.abs(differenceDb) > naturalSpreadDb
    return {
      figure,
      unit,
      predicted,
      measured: value,
      differenceDb,
      hint: far ? (differenceDb > 0 ? high : low) : '',
    }
  }
  return [
    row(
      'loudest peak',
      'dBFS',
      run.peakDb,
      measured.peakDbfs,
      'louder than the brief says, or nearer',
      'quieter than the brief says, farther off, or a box turned lower',
    ),
    row(
      'typical speech',
      'dBFS(A)',
      run.typicalDb,
      measured.speechDbfsA,
      'the voice, the distance or a gain is higher than planned',
      'the voice, the distance or a gain is lower than planned',
    ),
    row(
      'noise in the pauses',
      'dBFS(A)',
      run.noiseWithPlaceDb,
      measured.noiseDbfsA,
      'the place is louder, or a box is noisier than its figures',
      'the place is quieter than the brief says',
    ),
    row(
      'speech-to-noise',
      'dB',
      run.speechToNoiseDb,
      ratio,
      'better than planned',
      'worse than planned: look at the noise first',
    ),
  ]
}
