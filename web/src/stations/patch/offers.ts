import { computed, type Ref } from 'vue'
import { fits, pieceOfGear, pluggedLink, wayTo } from '@iron-hush/core/circuit'
import {
  type Edit,
  type Gear,
  isPiece,
  type Link,
  type Patch,
  type Shelf,
  shelfFor,
} from '@iron-hush/core/model'
import { idsOf, partId } from '../../state/new-id'
import { byOwned } from './layout'
import { bad, type Outcome, outcomeOf } from './outcome'

/** Something that could go into a link, and what it would bring. */
export interface Offer extends Outcome {
  gear: Gear
  edits: Edit[]
  /** The piece whose place it would take. */
  instead?: string
}

/** A thing with its ends as it would lie, and how many pieces of the link it would take the place of. */
interface Fitting {
  gear: Gear
  turned: boolean
  replaces: number
}

/** Things whose plugs go between the end of a link and its input, or in the place of its last piece; owned first. */
export function fittingPieces(link: Link, patch: Patch, commonShelf: Shelf): Fitting[] {
  const plugged = pluggedLink(patch, link, commonShelf)
  if (!plugged) return []
  const way = wayTo(plugged, 0)
  const input = plugged.inputs[0]!
  const half = (at: number) => (at < 0 ? plugged.output : plugged.pieces[way[at]!]!.ends[1]!)
  const before = [half(way.length - 1), ...(link.through.length ? [half(way.length - 2)] : [])]
  const last = link.through.at(-1)
  const splits = patch.links.some(({ branch }) => branch?.piece === last?.id)
  return [...shelfFor(patch, commonShelf).values()]
    .filter(isPiece)
    .sort(byOwned)
    .flatMap((gear): Fitting[] => {
      for (const [replaces, start] of before.entries())
        for (const turned of [false, true]) {
          const piece = pieceOfGear(gear.id, gear, {}, turned)
          if (!piece || (replaces === 1 && (gear.id === last?.gear || splits))) continue
          if (fits(start, piece.ends[0]!) && fits(piece.ends[1]!, input)) return [{ gear, turned, replaces }]
        }
      return []
    })
}

/** Pieces that fit at the end of a link, owned first, each with the finding it would bring. */
export function useOffers(patch: Ref<Patch>, shelf: Ref<Shelf>, link: Ref<Link | undefined>) {
  return computed<Offer[]>(() => {
    const into = link.value
    if (!into) return []
    const before = bad(patch.value, shelf.value)
    const offers = fittingPieces(into, patch.value, shelf.value).map(({ gear, turned, replaces }) => {
      const piece = {
        id: partId(gear.id, idsOf(patch.value)),
        gear: gear.id,
        settings: {},
        locked: [],
        turned,
      }
      const last = into.through.at(-1)
      const edits: Edit[] = [
        ...(replaces && last ? [{ kind: 'remove piece' as const, piece: last.id }] : []),
        { kind: 'insert piece', link: into.id, at: into.through.length - replaces, piece },
      ]
      const instead = replaces && last ? shelf.value.get(last.gear)?.name : undefined
      return { gear, edits, instead, ...outcomeOf(patch.value, edits, shelf.value, before) }
    })
    // what is owned first; of that, what would go silent last
    return offers.sort(
      (one, other) =>
        Number(other.gear.owned > 0) - Number(one.gear.owned > 0) ||
        Number(one.severity === 'dead') - Number(other.severity === 'dead'),
    )
  })
}
