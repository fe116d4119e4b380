import { shelfFor } from './check-patch'
import type { Gear, Shelf } from './gear'
import { partsOf } from './lookup'
import type { Patch } from './patch'

/** How often a patch uses each thing. */
export function usesIn(patch: Pick<Patch, 'boxes' | 'links'>): Map<string, number> {
  const uses = new Map<string, number>()
  for (const { gear } of partsOf(patch)) uses.set(gear, (uses.get(gear) ?? 0) + 1)
  return uses
}

/** The camera is what one films with, a desk is the house's: nobody buys those. */
const givenKinds: ReadonlySet<Gear['kind']> = new Set(['camera', 'desk'])

/**
 * What a patch uses more often than it is owned, a thing as often as it is missing.
 *
 * @param given a patch of which nothing has to be bought
 */
export function missingIn(patch: Patch, commonShelf: Shelf, given?: Patch): Gear[] {
  const before = given && usesIn(given)
  const shelf = shelfFor(patch, commonShelf)
  return [...usesIn(patch)].flatMap(([id, count]) => {
    const gear = shelf.get(id)
    // what stands in until one knows is nothing to buy
    if (!gear || gear.standIn || givenKinds.has(gear.kind)) return []
    const over = (uses: number) => Math.max(0, uses - gear.owned)
    return Array.from({ length: over(count) - over(before?.get(id) ?? 0) }, () => gear)
  })
}

/** What it costs to buy some things; undefined where a price is not known. */
export const priceOf = (bought: readonly Gear[]): number | undefined =>
  bought.reduce<number | undefined>(
    (sum, { price }) => (sum === undefined || price === undefined ? undefined : sum + price),
    0,
  )
