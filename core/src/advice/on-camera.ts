import { cameraDistanceM } from '../acoustics'
import { type Brief, type Patch, type Shelf, shelfFor } from '../model'

/** Places mounted on a camera: microphones made for it, and built-in ones. */
function placesOnCamera(patch: Patch, commonShelf: Shelf): Set<string> {
  const shelf = shelfFor(patch, commonShelf)
  return new Set(
    patch.boxes.flatMap(({ gear: id, place }) => {
      const gear = shelf.get(id)
      return place && gear && (gear.mount === 'camera' || gear.kind === 'camera') ? [place] : []
    }),
  )
}

/** Another picture, with what is mounted on the camera as far off as the camera then is. */
export function withPicture(
  patch: Patch,
  shelf: Shelf,
  picture: Brief['picture'],
): Pick<Brief, 'picture' | 'places'> {
  const onCamera = placesOnCamera(patch, shelf)
  const distanceM = cameraDistanceM(picture.framing, picture.focalLengthMm, picture.sensor)
  return {
    picture,
    places: patch.brief.places.map((place) =>
      onCamera.has(place.id)
        ? { ...place, hears: place.hears.map((each) => ({ ...each, distanceM })) }
        : place,
    ),
  }
}
