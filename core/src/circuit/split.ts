import { type Gear, isPiece, type Link, type Patch, type Shelf, shelfFor, endOf, gearOf } from '../model'
import { fits } from './contacts'
import { pieceOfGear } from './pieces'
import { halfOf } from './ports'

/** How a further link can begin at an output: at its socket, at a splitter that is there, or at one to be put in. */
export type Start =
  | { at: 'output' }
  | { at: 'splitter'; branch: NonNullable<Link['branch']> }
  | { at: 'new splitter'; gear: Gear; into: Link }

/**
 * Where another link from an output would begin. A socket takes one plug: once it is taken, a free end of a splitter
 * that hangs there serves, or one from the shelf, owned first, that fits between the output and what is plugged in.
 * Undefined when no splitter fits.
 */
export function startAt(patch: Patch, end: Link['from'], commonShelf: Shelf): Start | undefined {
  const shelf = shelfFor(patch, commonShelf)
  const gearAt = (place: Link['from']) => {
    const { gear, port } = endOf(patch, shelf, place)
    return { gear, port }
  }
  const { gear, port } = gearAt(end)
  const output = halfOf(port, gear)
  const mine = patch.links.filter(({ from }) => from.box === end.box && from.port === end.port)
  const root = mine.find(({ branch }) => !branch)
  if (!root || !output) return { at: 'output' }

  for (const { pieces } of mine)
    for (const { id, gear: piece } of pieces)
      for (const index of (shelf.get(piece)?.passive?.more ?? []).keys()) {
        const branch = { piece: id, end: index + 2 }
        const taken = patch.links.some((link) => link.branch?.piece === id && link.branch.end === branch.end)
        if (!taken) return { at: 'splitter', branch }
      }

  const [first] = root.pieces
  const into = gearAt(root.to)
  const next = first
    ? pieceOfGear(first.id, gearOf(shelf, first.gear), first.settings, first.reversed)?.ends[0]
    : halfOf(into.port, into.gear)
  const splitter = [...shelf.values()]
    .filter((each) => isPiece(each) && each.passive?.more?.length)
    .sort((one, other) => Number(other.owned > 0) - Number(one.owned > 0))
    .find((each) => {
      const piece = pieceOfGear(each.id, each, {})
      return piece && next && fits(output, piece.ends[0]!) && fits(piece.ends[1]!, next)
    })
  return splitter && { at: 'new splitter', gear: splitter, into: root }
}

/** A free further end of a lead that is plugged into an input already: where a second output could join. */
export function joinAt(
  patch: Patch,
  end: Link['to'],
  commonShelf: Shelf,
): NonNullable<Link['joins']> | undefined {
  const shelf = shelfFor(patch, commonShelf)
  for (const { to, pieces, joins } of patch.links) {
    if (joins || to.box !== end.box || to.port !== end.port) continue
    for (const { id, gear } of pieces)
      for (const index of (shelf.get(gear)?.passive?.more ?? []).keys()) {
        const place = { piece: id, end: index + 2 }
        const taken = patch.links.some((link) =>
          [link.branch, link.joins].some((each) => each?.piece === id && each.end === place.end),
        )
        if (!taken) return place
      }
  }
  return undefined
}
