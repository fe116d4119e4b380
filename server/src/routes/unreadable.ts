import { listUnreadable, type Unreadable } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { keptGear } from '../store/gear'
import { keptProofs } from '../store/proofs'
import { keptTakes } from '../store/takes'
import { unreadableIn } from '../store/unreadable'

/** The documents that are stored whole. */
export const everythingKept = [keptGear, keptTakes, keptProofs]

/**
 * Everything stored is looked through once for each server: what is stored after its start has passed the schemas, and
 * what cannot be read was stored by another release.
 */
export function unreadableRoutes(): Route[] {
  let found: Promise<Unreadable[]> | undefined
  return [
    fulfil(listUnreadable, ({ db }) => {
      found ??= unreadableIn(db, everythingKept).catch((error: unknown) => {
        found = undefined
        throw error
      })
      return found
    }),
  ]
}
