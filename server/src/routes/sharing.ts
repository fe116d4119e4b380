import { offerCode, readSharing, revokeDevice } from '@iron-hush/core/contract'
import { Refusal } from '@iron-hush/core/model'
import { shutOut } from '../access/devices'
import type { Sharer } from '../access/sharing'
import { fulfil, type Route } from '../route'

/** @param shutOff ends the open connections of a device that lost access */
export const sharingRoutes = (sharer: Sharer, shutOff: (device: string) => void): Route[] => [
  fulfil(readSharing, ({ db }) => sharer.state(db)),
  fulfil(offerCode, ({ db }) => {
    if (!sharer.shared)
      throw new Refusal(
        'No device can be paired: Iron Hush is not shared. Start it with npm start -- --share.',
      )
    sharer.pairing.offer()
    return sharer.state(db)
  }),
  fulfil(revokeDevice, async ({ db, id }) => {
    await shutOut(db, id)
    shutOff(id)
    return sharer.state(db)
  }),
]
