import { amplitudeFromDb } from '../units'
import { type FollowingStage, noisePower, type Reading } from './reading'

/** The reading of a node over a range of control positions: each figure's minimum and maximum. */
export interface ReadingSpan {
  gainLowDb: number
  gainHighDb: number
  /** The same as amplitudes. */
  gainLow: number
  gainHigh: number
  /** Noise as power. */
  inputNoiseLow: number
  outputNoiseLow: number
  inputNoiseHigh: number
  outputNoiseHigh: number
  /** The highest. */
  inputCeilingDb: number
  outputCeilingDb: number
  /** The stage whose gain comes on top, where it follows the level in some position. */
  follows?: FollowingStage
  /** It follows nothing in some other position. */
  mayRest: boolean
  /** Corners of low-cuts that act in some position, and in every position. */
  lowCutsHz: number[]
  alwaysLowCutHz?: number
}

/** The reading span of each node, by its index. */
export type SpanOf = (node: number) => ReadingSpan

/** Takes readings together, one for each position. */
export function readingSpan(readings: readonly Reading[]): ReadingSpan {
  const span: ReadingSpan = {
    gainLowDb: Infinity,
    gainHighDb: -Infinity,
    gainLow: 0,
    gainHigh: 0,
    inputNoiseLow: Infinity,
    outputNoiseLow: Infinity,
    inputNoiseHigh: 0,
    outputNoiseHigh: 0,
    inputCeilingDb: -Infinity,
    outputCeilingDb: -Infinity,
    mayRest: false,
    lowCutsHz: [],
  }
  for (const reading of readings) {
    const [input, output] = [noisePower(reading.inputNoiseDb), noisePower(reading.outputNoiseDb)]
    span.gainLowDb = Math.min(span.gainLowDb, reading.gainDb)
    span.gainHighDb = Math.max(span.gainHighDb, reading.gainDb)
    span.inputNoiseLow = Math.min(span.inputNoiseLow, input)
    span.outputNoiseLow = Math.min(span.outputNoiseLow, output)
    span.inputNoiseHigh = Math.max(span.inputNoiseHigh, input)
    span.outputNoiseHigh = Math.max(span.outputNoiseHigh, output)
    span.inputCeilingDb = Math.max(span.inputCeilingDb, reading.inputCeilingDb)
    span.outputCeilingDb = Math.max(span.outputCeilingDb, reading.outputCeilingDb)
    if (reading.follows) span.follows = reading.follows
    else span.mayRest = true
    if (reading.lowCutHz !== undefined && !span.lowCutsHz.includes(reading.lowCutHz))
      span.lowCutsHz.push(reading.lowCutHz)
  }
  span.gainLow = amplitudeFromDb(span.gainLowDb)
  span.gainHigh = amplitudeFromDb(span.gainHighDb)
  const cutsAlways = readings.every(({ lowCutHz }) => lowCutHz !== undefined)
  if (cutsAlways && span.lowCutsHz.length === 1) [span.alwaysLowCutHz] = span.lowCutsHz
  return span
}
