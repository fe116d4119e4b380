import { cameraDistanceM } from '../acoustics'
import type { Edit } from '../edits'
import { freshId, type Gear, type Mount, type Patch, type Place } from '../model'
import { placeFor } from './place-for'

/** Where a microphone stands when it comes into a chain, and what makes that place where there is none. */
export interface StandsAt {
  place?: string
  edits: Edit[]
}

/** A place that is so near is worn or held; farther off stands everything else. m */
const onBodyM = 0.3
/** A place on the camera is as far off as the camera, to within this ratio. */
const sameDistance = 1.1

/** Nothing where the thing is no microphone; a place of the brief that suits how it is used, a free one first; else a new one. */
export function standsAt(patch: Patch, gear: Gear): StandsAt {
  const hasVoice = patch.brief.sources.some(({ kind }) => kind !== 'line')
  if (gear.kind !== 'microphone' || !hasVoice) return { edits: [] }
  const mount = gear.mount ?? 'boom'
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

function suits({ hears }: Place, mount: Mount, { brief: { picture } }: Patch): boolean {
  const nearestM = Math.min(...hears.map(({ distanceM }) => distanceM))
  if (!Number.isFinite(nearestM)) return false
  const cameraM = cameraDistanceM(picture.framing, picture.focalLengthMm, picture.sensor)
  const onCamera = Math.max(nearestM / cameraM, cameraM / nearestM) < sameDistance
  if (mount === 'camera') return onCamera
  return mount === 'worn' || mount === 'hand' ? nearestM <= onBodyM : nearestM > onBodyM && !onCamera
}
