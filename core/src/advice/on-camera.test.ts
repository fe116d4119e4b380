import { describe, expect, it } from 'vitest'
import { cameraDistanceM } from '../acoustics'
import { planScene, scenarios } from '../plan'
import { shelf } from '../tests/demo'
import { withPicture } from '.'

describe('another picture', () => {
  const [planned] = planScene(
    {
      camera: shelf.get('fennimore-mirrorless')!,
      scenario: scenarios[0]!,
      heardWith: { microphone: shelf.get('oriel-on-camera-gun')! },
    },
    shelf,
  )
  const { patch } = planned!
  it('moves what is mounted on the camera along with it', () => {
    const picture = { ...patch.brief.picture, focalLengthMm: 2 * patch.brief.picture.focalLengthMm }
    const distanceM = cameraDistanceM(picture.framing, picture.focalLengthMm, picture.sensor)
    const [place] = withPicture(patch, shelf, picture).places
    expect(place!.hears[0]!.distanceM).toBeCloseTo(distanceM, 9)
    expect(distanceM).toBeCloseTo(2 * patch.brief.places[0]!.hears[0]!.distanceM, 9)
  })
  it('leaves a boom where it is', () => {
    const boom = {
      ...patch,
      boxes: patch.boxes.map((box) => (box.place ? { ...box, gear: 'oriel-short-gun' } : box)),
    }
    const wider = { ...patch.brief.picture, framing: 'wide' as const }
    expect(withPicture(boom, shelf, wider).places).toEqual(boom.brief.places)
  })
})
