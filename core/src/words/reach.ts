import type { OnCameraReach } from '../acoustics'
import { decibels } from '../units'

/** How far a microphone on the camera holds, as a sentence. @param distance a length in the user's measure */
export function reachWords(
  { wantedDb, farthestM, distanceM, holds, longestLensMm, widestFraming }: OnCameraReach,
  distance: (metres: number) => string,
): string {
  const now = holds
    ? `On the camera (${distance(distanceM)}) a microphone holds`
    : `On the camera (${distance(distanceM)}) a microphone does not hold`
  const lens = longestLensMm < 1 ? 'no lens at all' : `a lens of ${Math.floor(longestLensMm)} mm`
  const picture =
    widestFraming === undefined
      ? 'with this lens no framing is near enough'
      : `with this lens, nothing wider than ${widestFraming}`
  return `${now}: ${decibels(wantedDb)} over noise and echo are there up to ${distance(farthestM)}. At this framing that is ${lens}; ${picture}.`
}
