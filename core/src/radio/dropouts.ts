import type { Patch, Shelf } from '../model'
import { dropoutShare, marginDb } from './margin'
import { radioLinksOf } from './sets'

/**
 * Share of the time that each receiver of a patch is without its transmitter at a distance, a body between, by box; of
 * two transmitters the worse. A link that does not say what it is on the air counts as sound, one that is not matched
 * is always out.
 */
export function dropoutsOf(patch: Patch, shelf: Shelf, distanceM: number): Map<string, number> {
  const shares = new Map<string, number>()
  for (const link of radioLinksOf(patch, shelf)) {
    const margin = marginDb(link, distanceM, true)
    const share = !link.matched ? 1 : margin === undefined ? 0 : dropoutShare(margin)
    shares.set(link.receiver.box, Math.max(share, shares.get(link.receiver.box) ?? 0))
  }
  return shares
}
