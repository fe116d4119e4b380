import { type Link, type Patch, type Shelf, known } from '@iron-hush/core/model'
import { withUnits } from '@iron-hush/core/words'
import type { PlacedBox, Strand } from './layout'

/** A link as it is drawn: a strand for each contact along one path, and where its words stand. */
export interface DrawnLink {
  link: Link
  strands: Strand[]
  /** The path of a strand at a distance from the middle one, px. */
  path: (offset: number) => string
  x: number
  y: number
  words: string
}

/** Where boxes and rows lie, in pixels. */
export interface Geometry {
  placedOf: (box: string) => PlacedBox
  rowY: (row: number) => number
  leftOf: (box: PlacedBox) => number
  rightOf: (box: PlacedBox) => number
  /** The middle of the gap above a row. */
  gapY: (row: number) => number
}

/** Each link in the row that both ends share, else in the sender's, turning in front of the receiver. */
export function drawLinks(
  patch: Patch,
  shelf: Shelf,
  strands: ReadonlyMap<string, Strand[]>,
  geometry: Geometry,
): DrawnLink[] {
  const { placedOf, rowY, leftOf, rightOf, gapY } = geometry
  const turns = new Map<number, number>()
  const straight = new Map<string, number>()
  const drawn = new Map<string, DrawnLink>()
  // hosts before the branches that leave them
  for (const link of [...patch.links].sort((one, other) => Number(!!one.branch) - Number(!!other.branch)))
    drawn.set(link.id, draw(link))
  return patch.links.map(({ id }) => known(drawn.get(id), `link ${id}`))

  function draw(link: Link): DrawnLink {
    const from = placedOf(link.from.box)
    const to = placedOf(link.to.box)
    const first = Math.max(from.top, to.top)
    const last = Math.min(from.bottom, to.bottom)
    const meets = first <= last
    // several links of the same two boxes lie in a row each, as far as there are rows
    const pair = `${link.from.box} ${link.to.box}`
    const shared = Math.min(last, straight.get(pair) ?? first)
    if (meets) straight.set(pair, shared + 1)
    const fromY = rowY(meets ? shared : from.bottom)
    const toY = rowY(meets ? shared : to.top)
    const x1 = rightOf(from)
    const x2 = leftOf(to)
    const common = { link, strands: strands.get(link.id) ?? [], words: wordsOf(link, shelf) }
    const host = link.branch && hostOf(link.branch.piece)
    // a branch leaves the splitter that it begins at
    if (host && host.link.to.box !== link.from.box)
      return {
        ...common,
        path: (offset) => `M${host.x + offset} ${host.y} V${toY + offset} H${x2}`,
        x: (host.x + x2) / 2,
        y: toY,
      }
    // links that turn in front of one column do it side by side
    const turn = meets ? 0 : (turns.get(to.column) ?? 0)
    if (!meets) turns.set(to.column, turn + 1)
    const middle = x2 - 18 - turn * 14
    return {
      ...common,
      path: (offset) =>
        meets
          ? `M${x1} ${fromY + offset} H${x2}`
          : `M${x1} ${fromY + 24 + offset} H${middle - offset} V${toY + offset} H${x2}`,
      x: meets ? (x1 + x2) / 2 : middle,
      // in the gap between two rows, where there is no box
      y: meets ? fromY : gapY(toY > fromY ? to.top : to.bottom + 1),
    }
  }
  function hostOf(piece: string): DrawnLink | undefined {
    return [...drawn.values()].find((each) => each.link.pieces.some(({ id }) => id === piece))
  }
}

/** The pieces in a link by name; a figure and its unit stay on one line. */
const wordsOf = ({ pieces }: Link, shelf: Shelf): string =>
  pieces.map(({ gear }) => withUnits(shelf.get(gear)?.name ?? gear)).join(' + ')
