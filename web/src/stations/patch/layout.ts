import {
  type Box,
  type Gear,
  isPiece,
  type Link,
  type Patch,
  type Shelf,
  shelfFor,
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

/** Sources left, recordings right; every source opens a row, and a box that several rows meet in spans them. */
export function layoutOf(patch: Patch, commonShelf: Shelf): Layout {
  const shelf = shelfFor(patch, commonShelf)
  const into = (id: string) => patch.links.filter(({ to }) => to.box === id).map(({ from }) => from.box)
  const column = new Map<string, number>()
  const columnOf = (id: string): number => {
    const known = column.get(id)
    if (known !== undefined) return known
    const value = Math.max(-1, ...into(id).map(columnOf)) + 1
    column.set(id, value)
    return value
  }
  const rows = new Map<string, number[]>()
  let next = 0
  const rowsOf = (id: string): number[] => {
    const known = rows.get(id)
    if (known) return known
    const feeders = into(id)
    const value = feeders.length ? [...new Set(feeders.flatMap(rowsOf))] : [next++]
    rows.set(id, value)
    return value
  }
  for (const { id } of patch.boxes) rowsOf(id)
  const placed: PlacedBox[] = []
  // those that record keep their rows; what only listens moves below when it would lie on another
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

/** Contacts of a link as they are drawn, by what travels on each. */
export type Strand = 'signal' | 'return' | 'ground' | 'radio'

export function strandsOf(link: Link, patch: Patch, shelf: Shelf): Strand[] {
  const all = shelfFor(patch, shelf)
  const gearOf = (id: string) => all.get(patch.boxes.find((box) => box.id === id)?.gear ?? '')
  const port = gearOf(link.from.box)?.ports.find(({ id }) => id === link.from.port)
  const input = gearOf(link.to.box)?.ports.find(({ id }) => id === link.to.port)
  if (!port || port.connector === 'radio') return ['radio']
  if (port.balanced && input?.balanced) return ['signal', 'return', 'ground']
  return port.channels === 2 && input?.channels === 2 ? ['signal', 'signal', 'ground'] : ['signal', 'ground']
}

/** Things that would go into a link as a piece: their plugs fit on both sides. */
export function fittingPieces(link: Link, at: number, patch: Patch, commonShelf: Shelf): Gear[] {
  const all = shelfFor(patch, commonShelf)
  const portOf = (end: Link['from']) =>
    all.get(patch.boxes.find(({ id }) => id === end.box)?.gear ?? '')?.ports.find(({ id }) => id === end.port)
  const before = at > 0 ? all.get(link.through[at - 1]!.gear)?.passive?.to : portOf(link.from)?.connector
  const after =
    at < link.through.length ? all.get(link.through[at]!.gear)?.passive?.from : portOf(link.to)?.connector
  return [...all.values()]
    .filter(
      (gear) =>
        isPiece(gear) &&
        gear.passive!.from === before &&
        (gear.passive!.to === after || gear.passive!.to === gear.passive!.from),
    )
    .sort(byOwned)
}

export const byOwned = (one: Gear, other: Gear): number =>
  Number(other.owned > 0) - Number(one.owned > 0) || one.name.localeCompare(other.name)
