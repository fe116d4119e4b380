import { worstOutsideDb, worstOverDb, worstRatioDb, type Score } from './objective'
import type { Positions, Region } from './positions'

/** Score drop credited to a split that empties one half, dB. */
const nothingLeftDb = 4
/** Spread credited to a knob with a position that lets nothing through, dB. */
const mutedSpreadDb = 100
/** Least spread of a knob: one whose positions all have the same gain is still split when nothing else is left. */
const leastSpreadDb = 0.001

/**
 * Which knob of a region is best split: the wider apart its stops are and the more the bounds fell when it was split
 * before, the sooner a region is distinguished from better ones.
 */
export class Splitting {
  private readonly learned: { fallDb: number; times: number }[]

  constructor(private readonly positions: Positions) {
    this.learned = positions.knobs.map(() => ({ fallDb: 1, times: 1 }))
  }

  /** The knob to split; undefined when each has one stop left. */
  knobOf({ low, high }: Region): number | undefined {
    let [best, most] = [-1, 0]
    for (let knob = 0; knob < low.length; knob++) {
      if (high[knob] === low[knob]) continue
      const { fallDb: fellDb, times } = this.learned[knob]!
      const worth = (fellDb / times) * this.spreadDb(knob, low[knob]!, high[knob]!)
      if (worth > most) [best, most] = [knob, worth]
    }
    return best < 0 ? undefined : best
  }

  /** Records the score of half a region relative to the whole; undefined if the half is empty. */
  learn(knob: number, { low, high }: Region, whole: Score, half: Score | undefined): void {
    const learned = this.learned[knob]!
    learned.fallDb +=
      (half ? fallDb(whole, half) : nothingLeftDb) / this.spreadDb(knob, low[knob]!, high[knob]!)
    learned.times++
  }

  private spreadDb(knob: number, from: number, to: number): number {
    const { gainDb } = this.positions.knobs[knob]!
    let [low, high] = [Infinity, -Infinity]
    for (let stop = from; stop <= to; stop++) {
      low = Math.min(low, gainDb[stop]!)
      high = Math.max(high, gainDb[stop]!)
    }
    return (Number.isFinite(high - low) ? high - low : mutedSpreadDb) + leastSpreadDb * (to - from)
  }
}

/** How far the figures that count first fell, dB; no more than for nothing left, no less than a trace. */
function fallDb(whole: Score, half: Score): number {
  const worse =
    difference(worstRatioDb(whole), worstRatioDb(half)) +
    difference(worstOverDb(half), worstOverDb(whole)) +
    difference(worstOutsideDb(half), worstOutsideDb(whole))
  return Math.max(0.01, Math.min(nothingLeftDb, worse))
}

const difference = (one: number, other: number): number =>
  Number.isFinite(one) && Number.isFinite(other) ? one - other : 0
