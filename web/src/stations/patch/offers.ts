import { computed, type Ref } from 'vue'
import { fittingEdits, fittingPieces } from '@iron-hush/core/circuit'
import type { Edit } from '@iron-hush/core/edits'
import type { Gear, Link, Patch, Shelf } from '@iron-hush/core/model'
import { type Outcome, outcomeOf, standingOf } from './outcome'

/** Something that could go into a link, and what it would bring. */
export interface Offer extends Outcome {
  gear: Gear
  edits: Edit[]
  /** The piece whose place it would take. */
  instead?: string
}

/** Pieces that fit at the end of a link, owned first, each with the finding it would bring. */
export function useOffers(patch: Ref<Patch>, shelf: Ref<Shelf>, link: Ref<Link | undefined>) {
  return computed<Offer[]>(() => {
    const into = link.value
    if (!into) return []
    const before = standingOf(patch.value, shelf.value)
    const offers = fittingPieces(into, patch.value, shelf.value).map((fitting) => {
      const edits = fittingEdits(fitting, into, patch.value)
      const last = into.through.at(-1)
      const instead = fitting.replaces && last ? shelf.value.get(last.gear)?.name : undefined
      return { gear: fitting.gear, edits, instead, ...outcomeOf(patch.value, edits, shelf.value, before) }
    })
    // what is owned first; of that, what would go silent last
    return offers.sort(
      (one, other) =>
        Number(other.gear.owned > 0) - Number(one.gear.owned > 0) ||
        Number(one.severity === 'dead') - Number(other.severity === 'dead'),
    )
  })
}
