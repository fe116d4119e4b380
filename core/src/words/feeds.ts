import type { FeedRoom } from '../levels'
import { decibels, shownDb, signed } from '../units'

/** How loud a line feed may get before something on its way is overloaded, as a sentence. @param rooms the least room first */
export function feedWords([tightest]: readonly FeedRoom[]): string {
  if (!tightest) return 'Nothing records it yet: connect it to a recorder or a camera on Patch.'
  const { ceiling } = tightest
  if (!ceiling) return 'Nothing on its way limits how loud it may get.'
  const { place, spareDb, peakDbu, isSender } = ceiling
  if (spareDb === -Infinity)
    return `${place} is overloaded however little is sent: something else is too hot there.`
  return spareDb < -shownDb
    ? `It is ${decibels(-spareDb)} too hot for ${place}: ask for that much less${isSender ? '' : ', or put an attenuator before it on Patch'}.`
    : `Its peaks may reach ${signed(peakDbu)} dBu, ${decibels(spareDb)} more than given here, before ${place} is overloaded. Tell whoever sends it.`
}

/** The room that recordings leave it, in a few words. */
export function feedRoomWords({ ceiling }: FeedRoom): string {
  if (!ceiling) return 'no limit'
  const { spareDb } = ceiling
  if (spareDb === -Infinity) return 'overloaded'
  return spareDb < -shownDb ? `${decibels(-spareDb)} too hot` : `${decibels(spareDb)} to spare`
}
