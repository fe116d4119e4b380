import { boxesAfter, type Gear, type Patch, type Shelf, shelfFor } from '../model'

/** Drawbacks of a microphone, however clear it is. */
export type Drawback = 'in the picture' | 'on a wire'

/**
 * What speaks against the microphones of a plan: one that is held is seen, and who walks about cannot be followed by one
 * that a wire ties to the camera, unless it is on the camera.
 */
export function drawbacksOf(patch: Patch, commonShelf: Shelf): Drawback[] {
  const shelf = shelfFor(patch, commonShelf)
  const microphones = patch.boxes.flatMap((box) => {
    const gear = shelf.get(box.gear)
    return gear?.kind === 'microphone' ? [{ box: box.id, mount: gear.mount }] : []
  })
  const walks = patch.brief.sources.some((source) => source.kind !== 'line' && source.movement === 'walking')
  const isTied = ({ box, mount }: (typeof microphones)[number]) =>
    walks && mount !== 'camera' && !goesOverRadio(patch, box, shelf)
  return [
    ...(microphones.some(({ mount }) => mount === 'hand') ? (['in the picture'] as const) : []),
    ...(microphones.some(isTied) ? (['on a wire'] as const) : []),
  ]
}

/** Whether a box's output passes a radio on its way. */
function goesOverRadio(patch: Patch, from: string, shelf: Shelf): boolean {
  const gearOf = (id: string): Gear | undefined =>
    shelf.get(patch.boxes.find((box) => box.id === id)?.gear ?? '')
  const after = boxesAfter(patch, from)
  return patch.links.some(
    ({ from: { box, port } }) =>
      after.has(box) && gearOf(box)?.ports.some(({ id, connector }) => id === port && connector === 'radio'),
  )
}
