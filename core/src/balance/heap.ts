import { known } from '../model'
/** A priority queue: the least comes out first; of equals the latest. */
export class Heap<T> {
  private readonly items: T[] = []

  /** @param compare negative when the first is to come out before the second */
  constructor(private readonly compare: (one: T, other: T) => number) {}

  get size(): number {
    return this.items.length
  }

  /** Takes out the least ones: `most` of them, or all there are. */
  some(most: number): T[] {
    return Array.from({ length: Math.min(most, this.size) }, () => known(this.pop(), 'one that is left'))
  }

  push(item: T): void {
    const { items, compare } = this
    let at = items.push(item) - 1
    while (at > 0) {
      const parent = (at - 1) >> 1
      if (compare(items[parent]!, item) < 0) break
      items[at] = items[parent]!
      at = parent
    }
    items[at] = item
  }

  pop(): T | undefined {
    const { items, compare } = this
    const [first] = items
    const last = items.pop()
    if (first === undefined || last === undefined || items.length === 0) return first
    let at = 0
    for (;;) {
      let child = 2 * at + 1
      if (child >= items.length) break
      if (child + 1 < items.length && compare(items[child + 1]!, items[child]!) < 0) child++
      if (compare(last, items[child]!) <= 0) break
      items[at] = items[child]!
      at = child
    }
    items[at] = last
    return first
  }
}
