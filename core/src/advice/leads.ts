import { harmlessWays, type Way } from '../circuit'
import type { Edit } from '../edits'
import { endOf, type Gear, gearOf, type Link, type Patch, type Shelf, shelfFor } from '../model'

/** Pieces at most: a lead, and an adapter where no lead does by itself. */
const mostPieces = [1, 2]

/**
 * The pieces that join two sockets as a person would: the plainest lead that does no harm, plug in socket where the thing
 * has a lead of its own. Empty where nothing on the shelf does: what is wrong then, the wiring says. A supply that is off
 * is no hindrance, it can be switched on.
 */
export function leadBetween(patch: Patch, shelf: Shelf, from: Link['from'], to: Link['to']): Way['pieces'] {
  const link: Link = { id: 'asked', from, to, pieces: [] }
  const others = patch.links.filter((each) => each.to.box !== to.box || each.to.port !== to.port)
  const { port } = endOf(patch, shelfFor(patch, shelf), from)
  for (const most of mostPieces) {
    const ways = harmlessWays({ ...patch, links: others }, link, shelf, most)
    const [first] = ways
    if (!first) continue
    // boxes with XLR stand apart, though their plugs would go together
    const apart = first.pieces.length === 0 && port.connector === 'xlr-3'
    const cable = apart && ways.find(({ pieces }) => pieces[0]?.gear.kind === 'cable')
    return (cable || first).pieces
  }
  return []
}

/** The leads that edits insert, by their gear. */
export function leadsIn(edits: readonly Edit[], patch: Patch, commonShelf: Shelf): Gear[] {
  const shelf = shelfFor(patch, commonShelf)
  return edits.flatMap((edit) =>
    edit.kind === 'connect' ? edit.link.pieces.map(({ gear }) => gearOf(shelf, gear)) : [],
  )
}
