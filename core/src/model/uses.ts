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

/** Gear that nobody buys for a scene: the camera one films with, and the house's desk. */
const givenKinds: ReadonlySet<Gear['kind']> = new Set(['camera', 'desk'])

/**
 * Gear that a patch uses more often than it is owned, each as many times as it is missing.
 *
 * @param given a patch of which nothing has to be bought
 */
export function missingIn(patch: Patch, commonShelf: Shelf, given?: Patch): Gear[] {
  const before = given && usesIn(given)
  const shelf = shelfFor(patch, commonShelf)
  return [...usesIn(patch)].flatMap(([id, count]) => {
    const gear = shelf.get(id)
    // a placeholder is nothing to buy
    if (!gear || gear.standIn || givenKinds.has(gear.kind)) return []
    const over = (uses: number) => Math.max(0, uses - gear.owned)
    return Array.from({ length: over(count) - over(before?.get(id) ?? 0) }, () => gear)
  })
}

/** Total price of some things; undefined if one has no known price. */
export const priceOf = (bought: readonly Gear[]): number | undefined =>
  bought.reduce<number | undefined>(
    (sum, { price }) => (sum === undefined || price === undefined ? undefined : sum + price),
    0,
  )
