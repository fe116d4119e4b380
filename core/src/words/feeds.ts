import type { FeedRoom } from '../levels'
import { decibels, shownDb, signed } from '../units'

/** How loud a line feed may get before something on its way is passed, as a sentence. @param rooms the least room first */
export function feedWords([tightest]: readonly FeedRoom[]): string {
  if (!tightest) return 'It arrives on no recording yet: lead it into a recorder or a camera on Patch.'
  const { ceiling } = tightest
  if (!ceiling) return 'Nothing on its way limits how loud it may get.'
  const { place, headroomDb, peakDbu, isSender } = ceiling
  return headroomDb < -shownDb
    ? `Its peaks pass ${place} by ${decibels(-headroomDb)}: ask for so much less${isSender ? '' : ', or attenuate it before that on Patch'}.`
    : `Its peaks may reach ${signed(peakDbu)} dBu, ${decibels(headroomDb)} more than said here: then ${place} is passed. Tell whoever sends it.`
}

/** The room that recordings leave it, in a few words. */
export const feedRoomWords = ({ ceiling }: FeedRoom): string =>
  !ceiling
    ? 'no limit'
    : ceiling.headroomDb < -shownDb
      ? `${decibels(-ceiling.headroomDb)} too hot`
      : `${decibels(ceiling.headroomDb)} to spare`
