import { type Patch, withoutSource } from '../model'
import type { Edit } from './edit'

/*
 * Removes something from the brief, together with references to it in the boxes of the chain.
 */

/** A source leaves; a desk that carried it carries nothing afterwards. */
export const sourceRemoved = ({ boxes, brief }: Patch, id: string): Edit[] => [
  ...boxes.flatMap(({ id: box, source }): Edit[] =>
    source === id ? [{ kind: 'feed box', box, source: null }] : [],
  ),
  { kind: 'change brief', to: withoutSource(brief, id) },
]

/** Removes a place; a microphone that was there has no place afterwards. */
export const placeRemoved = ({ boxes, brief }: Patch, id: string): Edit[] => [
  ...boxes.flatMap(({ id: box, place }): Edit[] =>
    place === id ? [{ kind: 'place box', box, place: null }] : [],
  ),
  { kind: 'change brief', to: { places: brief.places.filter((each) => each.id !== id) } },
]
