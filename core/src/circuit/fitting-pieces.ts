import type { Edit } from '../edits'
import { type Gear, idsOf, isPiece, type Link, type Patch, partId, type Shelf, shelfFor } from '../model'
import { fits } from './contacts'
import { pluggedLink } from './from-patch'
import { wayTo } from './link'
import { pieceOfGear } from './pieces'

/** A thing in its orientation, and how many pieces of the link it would replace. */
export interface Fitting {
  gear: Gear
  reversed: boolean
  replaces: number
}

/** Things whose plugs go between the end of a link and its input, or in the place of its last piece. */
export function fittingPieces(link: Link, patch: Patch, commonShelf: Shelf): Fitting[] {
  const plugged = pluggedLink(patch, link, commonShelf)
  if (!plugged) return []
  const way = wayTo(plugged, 0)
  const input = plugged.inputs[0]!
  const half = (at: number) => (at < 0 ? plugged.output : plugged.pieces[way[at]!]!.ends[1]!)
  const before = [half(way.length - 1), ...(link.pieces.length ? [half(way.length - 2)] : [])]
  const last = link.pieces.at(-1)
  const splits = patch.links.some(({ branch }) => branch?.piece === last?.id)
  return [...shelfFor(patch, commonShelf).values()].filter(isPiece).flatMap((gear): Fitting[] => {
    for (const [replaces, start] of before.entries())
      for (const reversed of [false, true]) {
        const piece = pieceOfGear(gear.id, gear, {}, reversed)
        if (!piece || (replaces === 1 && (gear.id === last?.gear || splits))) continue
        if (fits(start, piece.ends[0]!) && fits(piece.ends[1]!, input)) return [{ gear, reversed, replaces }]
      }
    return []
  })
}

/** The edits that put a thing where it fits in a link. */
export function fittingEdits({ gear, reversed, replaces }: Fitting, link: Link, patch: Patch): Edit[] {
  const piece = { id: partId(gear.id, idsOf(patch)), gear: gear.id, settings: {}, locked: [], reversed }
  const last = link.pieces.at(-1)
  return [
    ...(replaces && last ? [{ kind: 'remove piece' as const, piece: last.id }] : []),
    { kind: 'insert piece', link: link.id, at: link.pieces.length - replaces, piece },
  ]
}
