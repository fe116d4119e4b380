import { addressOf } from './request'
import { listGear, listSceneGear } from './gear'
import { readScene } from './scenes'
import { listShoots } from './shoots'

/** Stations that show a scene with no more of the shelf than it uses, while the rest is read. */
const earlyStations = 'brief|patch|levels|roll'
const early = new RegExp(`^/scene/([\\w-]+)/(?:${earlyStations})$`)

/** The scene that an address of the page opens before the lists are read; undefined where they come first. */
export const sceneOpenedEarly = (address: string): string | undefined => early.exec(address)?.[1]

/** Addresses that the page at an address asks the server for first. */
export function askedFirst(address: string): string[] {
  const id = sceneOpenedEarly(address)
  return id
    ? [addressOf(readScene, { id }), addressOf(listSceneGear, { id })]
    : [addressOf(listGear), addressOf(listShoots)]
}
