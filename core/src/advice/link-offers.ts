import { fittingEdits, fittingPieces } from '../circuit'
import type { Edit } from '../edits'
import type { Gear, Link, Patch, Shelf } from '../model'
import { type Outcome, outcomeOf, severityOf, standingOf } from './outcome'

/** Something that could go into a link, and what it would bring. */
export interface LinkOffer {
  gear: Gear
  edits: Edit[]
  /** The piece whose place it would take. */
  instead?: string
  outcome: Outcome
}

/** Pieces that fit at the end of a link, owned first, each with the finding it would bring. */
export function offersForLink(patch: Patch, link: Link, shelf: Shelf): LinkOffer[] {
  const before = standingOf(patch, shelf)
  const offers = fittingPieces(link, patch, shelf).map((fitting) => {
    const edits = fittingEdits(fitting, link, patch)
    const last = link.pieces.at(-1)
    const instead = fitting.replaces && last ? shelf.get(last.gear)?.name : undefined
    return { gear: fitting.gear, edits, instead, outcome: outcomeOf(patch, edits, shelf, before) }
  })
  // owned gear first; within that, offers that would be silent last
  return offers.sort(
    (one, other) =>
      Number(other.gear.owned > 0) - Number(one.gear.owned > 0) ||
      Number(severityOf(one.outcome) === 'dead') - Number(severityOf(other.outcome) === 'dead'),
  )
}
