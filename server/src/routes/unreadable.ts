import { listUnreadable, type Unreadable } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { keptGear } from '../store/gear'
import { keptProofs } from '../store/proofs'
import { keptTakes } from '../store/takes'
import { unreadableIn } from '../store/unreadable'

/** The documents that are stored whole. */
export const everythingKept = [keptGear, keptTakes, keptProofs]

/**
 * Stored documents are checked once after each start of the server: later ones have passed the schemas, so an unreadable
 * one was stored by another release.
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
