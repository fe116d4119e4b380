import { cameraDistanceM } from '../acoustics'
import type { Edit } from '../edits'
import { freshId, type Gear, type Mount, type Patch, type Place } from '../model'
import { isPersonal, placeFor } from './place-for'

/** Where a microphone stands when it joins a chain, with the edit that makes that place if there is none. */
export interface UsualPlace {
  place?: string
  edits: Edit[]
}

/** A microphone nearer than this is worn or held in the hand, m. */
const onBodyM = 0.3
/** A place within this ratio of the camera's distance counts as mounted on the camera. */
const sameDistance = 1.1

/** Whether a box hears the room by itself: microphones, and cameras that use only their built-in one. */
const onlyHears = ({ ports }: Gear): boolean => {
  const inputs = ports.filter(({ direction }) => direction === 'in')
  return inputs.length > 0 && inputs.every(({ connector }) => connector === 'air')
}

/** Nothing where sound may come in another way; a place of the brief that suits how it is used, a free one first; else a new one. */
export function usualPlaceFor(patch: Patch, gear: Gear): UsualPlace {
  const hasVoice = patch.brief.sources.some(({ kind }) => kind !== 'line')
  if (!onlyHears(gear) || !hasVoice) return { edits: [] }
  const mount = gear.mount ?? (gear.kind === 'camera' ? 'camera' : 'boom')
  const taken = new Set(patch.boxes.map(({ place }) => place))
  const suiting = patch.brief.places.filter((place) => suits(place, mount, patch))
  const [found] = [...suiting.filter(({ id }) => !taken.has(id)), ...(mount === 'camera' ? suiting : [])]
  if (found) return { place: found.id, edits: [] }
  const place = placeFor(patch.brief, mount, { id: freshId(patch.brief, 'place') })
  return {
    place: place.id,
    edits: [{ kind: 'change brief', to: { places: [...patch.brief.places, place] } }],
  }
}

function suits({ hears }: Place, mount: Mount, { brief }: Patch): boolean {
  const { picture } = brief
  const nearestM = Math.min(...hears.map(({ distanceM }) => distanceM))
  if (!Number.isFinite(nearestM)) return false
  const cameraM = cameraDistanceM(picture.framing, picture.focalLengthMm, picture.sensor)
  const onCamera = Math.max(nearestM / cameraM, cameraM / nearestM) < sameDistance
  if (mount === 'camera') return onCamera
  return isPersonal(brief, mount) ? nearestM <= onBodyM : nearestM > onBodyM && !onCamera
}
