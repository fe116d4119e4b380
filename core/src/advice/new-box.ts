import type { Edit } from '../edits'
import { type Box, feedFor, type Gear, idsOf, nameOfFurther, partId, type Patch } from '../model'
import { usualPlaceFor } from './usual-place'

/**
 * A thing as it comes into a chain, and the edits that put it there, the box first: it stands somewhere where it hears a
 * room, and carries the line feed that nobody carries yet.
 *
 * @param place where it stands; null: nowhere yet. Left out: where a thing of its kind usually does
 */
export function newBox(patch: Patch, gear: Gear, place?: string | null): { box: Box; edits: Edit[] } {
  const usual = place === undefined ? usualPlaceFor(patch, gear) : { place: place ?? undefined, edits: [] }
  const box: Box = {
    id: partId(gear.kind, idsOf(patch)),
    gear: gear.id,
    name: nameOfFurther(patch, gear),
    place: usual.place,
    source: feedFor(patch, gear),
    settings: {},
    locked: [],
  }
  return { box, edits: [{ kind: 'add box', box }, ...usual.edits] }
}
