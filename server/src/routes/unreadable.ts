import { listUnreadable } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { keptGear } from '../store/gear'
import { keptProofs } from '../store/proofs'
import { keptTakes } from '../store/takes'
import { unreadableIn } from '../store/unreadable'

export const unreadableRoutes: Route[] = [
  fulfil(listUnreadable, ({ db }) => unreadableIn(db, [keptGear, keptTakes, keptProofs])),
]
