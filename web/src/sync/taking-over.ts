import { useNotices } from '../state/notices'
import type { Parcel } from './parcel'
import type { Storage } from './storage'

/** Held by a tab until it goes, so that others can see whether it is still there. */
export const lockOf = (tab: string): string => `iron-hush.tab.${tab}`

/**
 * Takes over what tabs that are gone have left, and later what those leave that go now. Call what it gives before
 * anything is loaded.
 *
 * @param adopt is given the parcels, in order; `late` where the page is open already
 */
export function takingOver(
  tab: string,
  storage: Storage,
  adopt: (parcels: Parcel[], late: boolean) => void,
): () => Promise<void> {
  async function takeOver(): Promise<void> {
    const { parcels, unreadable } = await storage.parcels()
    if (unreadable)
      useNotices().say(
        `${unreadable} kept ${unreadable === 1 ? 'change' : 'changes'} of another release cannot be read by this one; nothing was thrown away.`,
      )
    const others = new Set(parcels.map((parcel) => parcel.tab).filter((other) => other !== tab))
    await Promise.all([...others].map(takeOverFrom))
  }
  async function takeOverFrom(gone: string): Promise<void> {
    const { locks } = navigator
    if (!locks) return makeOwn(gone)
    await locks.request(lockOf(gone), { ifAvailable: true }, async (lock) => {
      if (lock) await makeOwn(gone)
      // a page that is being left may hold its lock a moment longer than the next one takes to start
      else void locks.request(lockOf(gone), () => makeOwn(gone, true))
    })
  }
  /** Makes a tab's parcels this tab's own. Its lock is held meanwhile, so that one tab alone does it. */
  async function makeOwn(gone: string, late = false): Promise<void> {
    const found = (await storage.parcels()).parcels.filter((parcel) => parcel.tab === gone)
    const own = found.map((parcel) => ({ ...parcel, tab }))
    own.forEach((parcel) => storage.keep(parcel))
    adopt(own, late)
    await storage.settled()
  }
  return takeOver
}
