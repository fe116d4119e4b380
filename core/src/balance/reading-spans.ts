import { type Reading, type ReadingSpan, readingSpan } from '../chain'
import { forEachIn, type Positions, type Region } from './positions'

/** Readings of nodes over regions of positions, cached by those positions. */
export class ReadingSpans {
  private readonly known: Map<number | string, ReadingSpan>[]

  constructor(private readonly positions: Positions) {
    this.known = positions.own.map(() => new Map())
  }

  over(node: number, region: Region): ReadingSpan {
    const own = this.positions.own[node]!
    const [only] = own
    const key =
      only === undefined
        ? 0
        : own.length === 1
          ? region.low[only]! * 65_536 + region.high[only]!
          : own.map((index) => `${region.low[index]}-${region.high[index]}`).join()
    const known = this.known[node]!
    const found = known.get(key)
    if (found) return found
    const readings: Reading[] = []
    forEachIn(region, own, this.positions.now, (choice) =>
      readings.push(this.positions.reading(node, choice)),
    )
    const made = readingSpan(readings)
    known.set(key, made)
    return made
  }
}
