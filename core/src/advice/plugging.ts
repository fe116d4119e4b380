import { joinAt, startAt, type Way } from '../circuit'
import type { Edit } from '../edits'
import { type Link, type Patch, type Shelf, idsOf, partId } from '../model'

const pieceOf = (id: string, gear: string, reversed = false): Link['pieces'][number] => ({
  id,
  gear,
  settings: {},
  locked: [],
  ...(reversed ? { reversed } : {}),
})

/** Pieces of a way under ids of their own. */
export function laid(way: Way['pieces'], used: string[]): Link['pieces'] {
  return way.map(({ gear, reversed }) => {
    const id = partId(gear.id, used)
    used.push(id)
    return pieceOf(id, gear.id, reversed)
  })
}

/** The edits that take a box out of the chain, with every link that ends at it. */
export const takeOutBox = ({ links }: Patch, box: string): Edit[] => [
  ...links
    .filter(({ from, to }) => from.box === box || to.box === box)
    .map(({ id }): Edit => ({ kind: 'disconnect', link: id })),
  { kind: 'remove box', box },
]

/**
 * The edits that plug an output into an input: through a splitter where the output is taken already, into the free end of
 * the lead that is there where the input is.
 */
export function plugIn(
  patch: Patch,
  shelf: Shelf,
  from: Link['from'],
  to: Link['to'],
  pieces: Way['pieces'] = [],
  used: string[] = idsOf(patch),
): Edit[] {
  const known = patch.boxes.some(({ id }) => id === from.box)
  const start = known ? startAt(patch, from, shelf) : undefined
  const edits: Edit[] = []
  let branch: Link['branch']
  if (start?.at === 'splitter') branch = start.branch
  if (start?.at === 'new splitter') {
    const id = partId(start.gear.id, used)
    used.push(id)
    edits.push({ kind: 'insert piece', link: start.into.id, at: 0, piece: pieceOf(id, start.gear.id) })
    branch = { piece: id, end: 2 }
  }
  const fed = patch.links.some((link) => link.to.box === to.box && link.to.port === to.port)
  const joins = fed ? joinAt(patch, to, shelf) : undefined
  const id = partId(`${from.box}-to-${to.box}`, used)
  used.push(id)
  edits.push({
    kind: 'connect',
    link: {
      id,
      from,
      to,
      pieces: laid(pieces, used),
      ...(branch ? { branch } : {}),
      ...(joins ? { joins } : {}),
    },
  })
  return edits
}

/** The edits that lay a way into a link, between its own sockets or between others of the same boxes. */
export function takeWay(patch: Patch, link: Link, way: Way): Edit[] {
  const used = idsOf(patch)
  const same = way.from.port === link.from.port && way.to.port === link.to.port
  const pieces = laid(way.pieces, used)
  if (!same) {
    const { branch: _, joins: __, ...rest } = link
    return [
      { kind: 'disconnect', link: link.id },
      { kind: 'connect', link: { ...rest, from: way.from, to: way.to, pieces } },
    ]
  }
  // a splitter that others begin at stays where it is
  const kept = link.pieces.filter(({ id }) => patch.links.some(({ branch }) => branch?.piece === id)).length
  return [
    ...link.pieces.slice(kept).map((piece): Edit => ({ kind: 'remove piece', piece: piece.id })),
    ...pieces.map((piece, index): Edit => ({
      kind: 'insert piece',
      link: link.id,
      at: kept + index,
      piece,
    })),
  ]
}
