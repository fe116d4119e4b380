import { type Chain, noisePowers, type Origin, powerOfWays, type Walked, waysOfSource } from '../chain'
import { powerDb } from '../units'

/** Floor of all levels: what remains of a sound that cancels, or behind a dead link, dB. */
export const floorDb = -200
export const dbOf = (power: number): number => Math.max(floorDb, powerDb(power))

/** Reads levels and noises off a chain, each worked out once. */
export class ChainReader {
  private readonly powers = new Map<Walked, Map<number, Float64Array>>()
  private readonly noises = new Map<Walked, { boxes: Float64Array; place: Float64Array }>()

  constructor(readonly chain: Chain) {}

  /** Level of a source after a node at its typical level in one situation, dB. */
  sourceDb(walked: Walked, source: number, node: number): number {
    const { table } = this.chain
    const bySource = this.powers.get(walked) ?? new Map<number, Float64Array>()
    this.powers.set(walked, bySource)
    const known = bySource.get(source) ?? new Float64Array(walked.after.length).fill(Number.NaN)
    bySource.set(source, known)
    if (Number.isNaN(known[node]!))
      known[node] = dbOf(powerOfWays(waysOfSource(walked.after[node]!, table, source)))
    return known[node]!
  }

  noisesAfter(walked: Walked, node: number): { boxes: number; place: number } {
    const { table } = this.chain
    let known = this.noises.get(walked)
    if (!known) {
      const empty = () => new Float64Array(walked.after.length).fill(Number.NaN)
      known = { boxes: empty(), place: empty() }
      this.noises.set(walked, known)
    }
    if (Number.isNaN(known.boxes[node]!)) {
      const { boxes, place } = noisePowers(walked.after[node]!, table)
      known.boxes[node] = boxes
      known.place[node] = place
    }
    return { boxes: known.boxes[node]!, place: known.place[node]! }
  }
}

/** One source in the situations of a run. */
export interface Heard {
  origin: Origin
  /** Its place in the list of sources. */
  source: number
  typical: Walked
  pause: Walked
  quietest: Walked
  loudest: Walked
}
