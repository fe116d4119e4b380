import { listSceneGear, readScene } from '@iron-hush/core/contract'
import { askAhead } from '../sync/ask'
import { useOutbox } from '../sync/outbox'
import { placeOf } from '../sync/parcel'
import { useGear } from './gear'

/** Opening a scene with no more of the shelf than it uses, while the lists are still on their way. */
export function useEarlyOpening(open: (id: string) => Promise<void>) {
  const gear = useGear()
  const outbox = useOutbox()

  /** Asks for a scene and what it uses before the browser has opened its storage. */
  function expect(id: string): void {
    askAhead(readScene, { id })
    askAhead(listSceneGear, { id })
  }
  /** False where that cannot be, and nothing was done: where something waits here that has to reach the server first. */
  async function openEarly(id: string): Promise<boolean> {
    if (outbox.waitingFor(placeOf('scene', id)).length > 0) return false
    try {
      await gear.loadOfScene(id)
      await open(id)
      return true
    } catch {
      // whoever reads the lists finds out why, and says it
      return false
    }
  }
  return { expect, openEarly }
}
