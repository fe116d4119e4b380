import type { OnCameraReach } from '../acoustics'
import { decibels } from '../units'

/** How far a microphone on the camera holds, as a sentence. @param distance a length in the user's measure */
export function reachWords(
  { clearDb, wantedDb, farthestM, isVoice, distanceM, holds, longestLensMm, widestFraming }: OnCameraReach,
  distance: (metres: number) => string,
): string {
  if (farthestM === Infinity)
    return `A microphone on the camera is ${distance(distanceM)} away. Nothing else is heard here, so only hiss limits how far away it may be.`
  const asked =
    wantedDb === undefined ? '' : `, and the ${decibels(wantedDb)} over the noise that the brief asks for`
  const now = `A microphone on the camera is ${distance(distanceM)} away, which is ${holds ? 'close' : 'not close'} enough: up to ${distance(farthestM)} the ${isVoice ? 'voice' : 'sound'} keeps ${decibels(clearDb)} over noise and echo${asked}.`
  const lens =
    longestLensMm < 1
      ? 'No lens frames this from so close'
      : `For this framing that means a lens of at most ${Math.floor(longestLensMm)} mm`
  const framing =
    widestFraming === undefined
      ? 'with this lens no framing brings the camera that close'
      : `with this lens, frame no wider than ${widestFraming}`
  return `${now} ${lens}; ${framing}.`
}
