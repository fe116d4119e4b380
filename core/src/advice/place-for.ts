import { cameraDistanceM } from '../acoustics'
import type { Brief, Mount, Place } from '../model'

/** Where a microphone of each kind usually is: off the mouth, m, and off its axis, degrees. */
const usual: Record<Exclude<Mount, 'camera'>, { name: string; distanceM: number; angleDeg: number }> = {
  worn: { name: 'a hand\u2019s width under the chin', distanceM: 0.2, angleDeg: 60 },
  hand: { name: 'in the hand', distanceM: 0.12, angleDeg: 10 },
  boom: { name: 'on a boom, from above', distanceM: 0.45, angleDeg: 10 },
  table: { name: 'on the table', distanceM: 0.7, angleDeg: 30 },
}
/** Nobody holds a boom in front of a source that does not speak. */
const standName = 'on a stand'
/** A microphone that a speaker would wear or hold stands beside a source that does not speak. */
const beside = { name: 'fixed beside it', distanceM: 1, angleDeg: 30 }

/** Whether a microphone is on somebody's body: there must be somebody who speaks. */
export const isPersonal = ({ sources }: Brief, mount: Mount): boolean =>
  (mount === 'worn' || mount === 'hand') && sources.some(({ kind }) => kind === 'speech')

/**
 * A place for a microphone by how it is used. What is worn or held hears its own voice so near, and the others from
 * where they sit; anything else hears all alike.
 */
export function placeFor(
  brief: Brief,
  mount: Mount,
  { id, own, boomM }: { id: string; own?: string; boomM?: number },
): Place {
  const { framing, focalLengthMm, sensor } = brief.picture
  const cameraM = cameraDistanceM(framing, focalLengthMm, sensor)
  const personal = isPersonal(brief, mount)
  const isBeside = (mount === 'worn' || mount === 'hand') && !personal
  const acoustic = brief.sources.filter(({ kind }) => kind !== 'line')
  const isStand = mount === 'boom' && acoustic.length > 0 && acoustic.every(({ kind }) => kind !== 'speech')
  const { name, distanceM, angleDeg } =
    mount === 'camera'
      ? { name: 'on the camera', distanceM: cameraM, angleDeg: 0 }
      : isBeside
        ? beside
        : usual[mount]
  const sharedM = acoustic.length > 1 ? sharedBoomM : distanceM
  const nearM = mount === 'boom' ? (boomM ?? sharedM) : isBeside ? (boomM ?? distanceM) : distanceM
  const wearer = personal && acoustic.length > 1 && acoustic.find((source) => source.id === own)
  return {
    id,
    // of several voices each has its own
    name: wearer ? `${name}, ${wearer.name}` : isStand ? standName : name,
    hears: acoustic.map(({ id: source }) =>
      personal && own !== undefined && source !== own
        ? { source, distanceM: otherVoiceM, angleDeg: 90 }
        : { source, distanceM: nearM, angleDeg },
    ),
  }
}

/** Distance of a boom shared by several voices: it hangs between them, m. */
const sharedBoomM = 0.75
/** Usual distance between two people in conversation, m. */
const otherVoiceM = 1.2
