import { useNotices } from '../state/notices'
import { Refused, ServerAway } from './ask'
import type { Parcel } from './parcel'
import { useSetAside } from './set-aside'

/** Carries parcels of one kind to the server. */
export interface Carrier {
  send: (parcel: Parcel) => Promise<void>
  /**
   * The server said no: for good, so the parcel is taken out. Says whether the carrier found a way on; if not, the parcel
   * is set aside for the person.
   */
  refused: (parcel: Parcel, refusal: Refused) => boolean
  /** A parcel of a tab that went only now is this tab's: what is on the screen follows it. */
  adopted: (parcel: Parcel) => void
}

/** Failures of an answering server after which a parcel is set aside. */
const mostFailures = 3

/**
 * Hands parcels to their carriers. Each answer says whether the parcel is done with: stored, refused, or failed at for
 * good; false while the server is away.
 */
export function delivering(): (carrier: Carrier, parcel: Parcel) => Promise<boolean> {
  const failures = new Map<string, number>()
  return async (carrier, parcel) => {
    try {
      await carrier.send(parcel)
    } catch (error) {
      if (error instanceof Refused) {
        if (!carrier.refused(parcel, error)) giveUp(parcel, error.problem.detail)
        return true
      }
      if (!(error instanceof ServerAway) || error.status !== 500) return false
      const count = (failures.get(parcel.id) ?? 0) + 1
      failures.set(parcel.id, count)
      if (count < mostFailures) return false
      giveUp(parcel, `The server failed ${count} times on this one, while it accepts others.`)
    }
    failures.delete(parcel.id)
    return true
  }
}

/** A change refused for good is set aside, unless there is nothing to save. */
function giveUp(parcel: Parcel, sentence: string): void {
  if (parcel.errand.do === 'drop') useNotices().say(sentence)
  else useSetAside().add(parcel, sentence)
}
