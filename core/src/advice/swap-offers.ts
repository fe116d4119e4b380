import { type Box, type Gear, isPiece, type Patch, type Shelf, shelfFor, thingsOf } from '../model'
import { byOwned } from './by-owned'
import { type Outcome, outcomeOf, standingOf } from './outcome'

/** Another thing of the same kind, and what it would bring in the place of a box. */
export interface SwapOffer {
  gear: Gear
  outcome: Outcome
}

/** Things of the same kind as a box, owned first. */
export function swapsFor(patch: Patch, box: Box, commonShelf: Shelf): SwapOffer[] {
  const shelf = shelfFor(patch, commonShelf)
  const kind = shelf.get(box.gear)?.kind
  const before = standingOf(patch, commonShelf)
  return thingsOf(shelf)
    .filter((each) => !isPiece(each) && each.kind === kind && each.id !== box.gear)
    .sort(byOwned)
    .map((gear) => ({
      gear,
      outcome: outcomeOf(patch, [{ kind: 'swap', part: box.id, gear: gear.id }], commonShelf, before),
    }))
}
