import { contactStates, pluggedLink, type Travels, variantsOf } from '@iron-hush/core/circuit'
import {
  type Box,
  type Gear,
  type Link,
  type Patch,
  type Shelf,
  shelfFor,
  lastOf,
  known,
} from '@iron-hush/core/model'

/** A box on the drawing: column by its place in the chain, rows by the runs that pass through it. */
export interface PlacedBox {
  box: Box
  gear: Gear
  column: number
  top: number
  bottom: number
}

export interface Layout {
  boxes: PlacedBox[]
  columns: number
  rows: number
}

/**
 * Sources left, recordings right; every source opens a row, and a box that several rows meet in spans them. A box of
 * several rows sends each of its links along one of them, so that what only one link leads to takes no more than that.
 */
export function layoutOf(patch: Patch, commonShelf: Shelf): Layout {
  const shelf = shelfFor(patch, commonShelf)
  const into = (id: string) => patch.links.filter(({ to }) => to.box === id).map(({ from }) => from.box)
  const out = (id: string) => patch.links.filter(({ from }) => from.box === id)
  const column = new Map<string, number>()
  const columnOf = (id: string): number => {
    const found = column.get(id)
    if (found !== undefined) return found
    const value = Math.max(-1, ...into(id).map(columnOf)) + 1
    column.set(id, value)
    return value
  }
  const rows = new Map<string, number[]>()
  let next = 0
  const rowsOf = (id: string): number[] => {
    const found = rows.get(id)
    if (found) return found
    const links = patch.links.filter(({ to }) => to.box === id)
    const value = links.length ? [...new Set(links.map(rowOfLink))] : [next++]
    rows.set(id, value)
    return value
  }
  const rowOfLink = (link: Link): number => {
    const own = rowsOf(link.from.box)
    const index = out(link.from.box).indexOf(link)
    return own[Math.min(index, own.length - 1)]!
  }
  for (const { id } of patch.boxes) rowsOf(id)
  const placed: PlacedBox[] = []
  // recordings keep their rows; listening boxes move below if they would overlap
  const order = [...patch.boxes].sort(
    (one, other) =>
      Number(shelf.get(one.gear)?.kind === 'headphones') -
      Number(shelf.get(other.gear)?.kind === 'headphones'),
  )
  for (const box of order) {
    const gear = shelf.get(box.gear)
    if (!gear) continue
    const own = rowsOf(box.id)
    let top = Math.min(...own)
    let bottom = Math.max(...own)
    const at = columnOf(box.id)
    if (placed.some((each) => each.column === at && each.top <= bottom && each.bottom >= top))
      top = bottom = next++
    placed.push({ box, gear, column: at, top, bottom })
  }
  return { boxes: placed, columns: Math.max(0, ...placed.map((each) => each.column)) + 1, rows: next }
}

/** A box of the patch where it is laid out. */
export const placedIn = ({ boxes }: Layout, id: string): PlacedBox =>
  known(
    boxes.find(({ box }) => box.id === id),
    `box ${id}`,
  )

/** Contacts of a link as they are drawn, by what travels on each; none where no plugs are. */
export type Strand = Travels | 'radio'

export function strandsOf(link: Link, patch: Patch, shelf: Shelf): Strand[] {
  const box = patch.boxes.find(({ id }) => id === link.from.box)
  const port =
    box &&
    shelfFor(patch, shelf)
      .get(box.gear)
      ?.ports.find(({ id }) => id === link.from.port)
  if (port?.connector === 'radio') return ['radio']
  const plugged = pluggedLink(patch, link, shelf)
  const found = plugged && variantsOf(plugged)
  if (!found || 'misfit' in found) return ['nothing', 'nothing']
  const travels = lastOf(contactStates(plugged, found.variants[0]!).halves).contacts.map(
    (each) => each.travels,
  )
  return travels.filter((each) => each !== 'nothing').length ? travels : ['nothing', 'nothing']
}
