import { type Control, type Patch, type Shelf, shelfFor, partsOf } from '../model'

/** Names of the things of a patch, for a person. The id if nothing else is known any more. */
export interface Names {
  patch: Patch
  /** A box, or a piece of a link. */
  part: (id: string) => string
  gear: (id: string) => string
  /** A link by its two ends. */
  link: (id: string) => string
  place: (id: string) => string
  source: (id: string) => string
  control: (part: string, control: string) => Control | undefined
}

export function namesOf(patch: Patch, commonShelf: Shelf): Names {
  const shelf = shelfFor(patch, commonShelf)
  const parts = partsOf(patch)
  const gearOf = (id: string) => shelf.get(parts.find((each) => each.id === id)?.gear ?? '')
  const part = (id: string): string => {
    const found = parts.find((each) => each.id === id)
    return (found && 'name' in found && found.name) || gearOf(id)?.name || id
  }
  return {
    patch,
    part,
    gear: (id) => shelf.get(id)?.name ?? id,
    link(id) {
      const link = patch.links.find((each) => each.id === id)
      return link ? `${part(link.from.box)} and ${part(link.to.box)}` : id
    },
    place: (id) => patch.brief.places.find((each) => each.id === id)?.name ?? id,
    source: (id) => patch.brief.sources.find((each) => each.id === id)?.name ?? id,
    control: (id, control) => gearOf(id)?.controls.find((each) => each.id === control),
  }
}
