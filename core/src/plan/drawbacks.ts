import { type Patch, type Shelf, shelfFor } from '../model'

/** What speaks against a microphone, however clear it is. */
export type Drawback = 'in the picture' | 'on a wire'

/**
 * What speaks against the microphones of a plan: one that is held is seen, and who walks about cannot be followed by one
 * that a wire or a stand holds.
 */
export function drawbacksOf({ brief, ...patch }: Patch, commonShelf: Shelf): Drawback[] {
  const shelf = shelfFor({ brief, ...patch }, commonShelf)
  const gear = patch.boxes.flatMap((box) => shelf.get(box.gear) ?? [])
  const microphones = gear.filter(({ kind }) => kind === 'microphone')
  const walks = brief.sources.some((source) => source.kind !== 'line' && source.movement === 'walking')
  const isHeld = microphones.some(({ mount }) => mount === 'hand')
  const isTied =
    walks && microphones.some(({ mount }) => mount !== 'camera') && !gear.some(({ kind }) => kind === 'radio')
  return [...(isHeld ? (['in the picture'] as const) : []), ...(isTied ? (['on a wire'] as const) : [])]
}
