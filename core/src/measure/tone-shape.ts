import type { CeilingShape } from '../model'
import { amplitudeDb } from '../units'

/** Shape of a tone's crests, and the level at which they end. */
export interface ToneShape {
  ceilingDbfs: number
  shape: CeilingShape
}

/** Phases that a period is folded into; each averages samples of many periods. */
const phases = 128
/** A crest is what exceeds this share of the height. */
const crestShare = 0.97
/** A sine spends acos(0.97) / pi of its half period above that share; a clipped tone more than this. */
const pressedOver = 0.24
/** A crest is tilted if its second half lies this share below its first. */
const sagShare = 0.012
/** Between 86 and 98.5 % of its height a cut tone rises as fast as the taller sine it was cut from. */
const [shoulderFrom, shoulderTo] = [0.86, 0.985]

/**
 * Folds a tone over its period, so that noise averages out and the shape between the samples shows, and reads the shape of
 * its crests. Undefined where the crests are those of a sine.
 *
 * @param hz its frequency, to one part in ten thousand
 */
export function toneShape(samples: Float32Array, hz: number, rateHz: number): ToneShape | undefined {
  const folded = foldedPeriod(samples, hz, rateHz)
  const height = folded.reduce((most, each) => Math.max(most, Math.abs(each)), 0)
  if (!(height > 0)) return undefined
  const halves = [1, -1].flatMap((sign) => crestOf(folded, sign, height) ?? [])
  if (halves.length === 0) return undefined
  const mean = (pick: (half: Crest) => number) =>
    halves.reduce((sum, half) => sum + pick(half), 0) / halves.length
  if (mean(({ share }) => share) < pressedOver) return undefined
  const level = mean(({ height: each }) => each)
  const shape =
    mean(({ fall }) => fall) > sagShare ? 'sagging' : mean(({ shoulder }) => shoulder) > 1 ? 'bent' : 'flat'
  return { ceilingDbfs: amplitudeDb(level), shape }
}

/** Mean of all samples that fall on each place of the period. */
function foldedPeriod(samples: Float32Array, hz: number, rateHz: number): Float64Array {
  const sums = new Float64Array(phases)
  const counts = new Float64Array(phases)
  for (let frame = 0; frame < samples.length; frame++) {
    const at = Math.floor((((frame * hz) / rateHz) % 1) * phases)
    sums[at]! += samples[frame]!
    counts[at]!++
  }
  return sums.map((sum, at) => (counts[at]! > 0 ? sum / counts[at]! : 0))
}

interface Crest {
  height: number
  /** Share of the half period that it spends near its height. */
  share: number
  /** How far its second half is below its first, as a share of its height. */
  fall: number
  /** Width of its shoulders relative to a sine that is cut: above 1 they are rounder. */
  shoulder: number
}

function crestOf(folded: Float64Array, sign: number, whole: number): Crest | undefined {
  const values = folded.map((each) => sign * each)
  const height = values.reduce((most, each) => Math.max(most, each), 0)
  if (height < 0.3 * whole) return undefined
  // turned so that it begins where the wave comes up through its middle
  const start = values.findIndex((each, at) => each >= 0 && values[(at + phases - 1) % phases]! < 0)
  const half = Array.from({ length: phases / 2 }, (_, at) => values[(start + at) % phases]! / height)
  // the tilt of a sagging crest takes its end out of the crest itself
  const over = half.flatMap((each, at) => (each > 0.8 ? [at] : []))
  const [from = 0, to = 0] = [over[0], over.at(-1)]
  const inner = half.slice(from + 3, to - 2)
  const middle = Math.floor(inner.length / 2)
  const average = (list: number[]) => list.reduce((sum, each) => sum + each, 0) / Math.max(1, list.length)
  const share = half.filter((each) => each > crestShare).length / half.length
  const rises = (level: number) => crossing(half, level)
  // a sine of height A, cut at 1, passes two levels at arcsin(level / A)
  const cutAt = rises(shoulderFrom)
  const sineHeight = shoulderFrom / Math.max(0.05, Math.sin((Math.PI * Math.max(0.2, cutAt)) / half.length))
  const expected =
    ((Math.asin(Math.min(1, shoulderTo / Math.max(1, sineHeight))) -
      Math.asin(Math.min(1, shoulderFrom / Math.max(1, sineHeight)))) *
      half.length) /
    Math.PI
  return {
    height,
    share: Math.max(share, inner.length / half.length > 0.55 ? pressedOver : 0),
    fall: average(inner.slice(0, middle)) - average(inner.slice(middle)),
    shoulder: (rises(shoulderTo) - cutAt) / (1.6 * expected + 0.6),
  }
}

/** Where a rising half wave first passes a level, between its places. */
function crossing(half: readonly number[], level: number): number {
  const after = half.findIndex((each) => each >= level)
  if (after <= 0) return 0
  const [low, high] = [half[after - 1]!, half[after]!]
  return after - 1 + (level - low) / Math.max(1e-9, high - low)
}
