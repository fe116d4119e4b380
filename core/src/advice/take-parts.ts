import { applyEdits, type Edit } from '../edits'
import type { ChainChange } from '../findings'
import {
  type ControlApart,
  controlsApart,
  gearOf,
  hasPosition,
  type Patch,
  partNameOf,
  partsOf,
  positionName,
  type SetPart,
  type Shelf,
  shelfFor,
} from '../model'

/** The parts of a chain with the position of every control, as a take keeps them. */
export function partsAsSet(patch: Patch, commonShelf: Shelf): SetPart[] {
  const shelf = shelfFor(patch, commonShelf)
  return partsOf(patch).map(({ id, gear, settings }) => ({
    id,
    gear,
    settings: Object.fromEntries(
      gearOf(shelf, gear).controls.map((control) => [control.id, settings[control.id] ?? control.initial]),
    ),
  }))
}

/** Changes of a chain between two moments; none where one of them is unknown. */
export function changesBetween(
  earlier: readonly SetPart[],
  later: readonly SetPart[],
  patch: Patch,
  commonShelf: Shelf,
): ChainChange[] {
  if (earlier.length === 0 || later.length === 0) return []
  const shelf = shelfFor(patch, commonShelf)
  const names = new Map(partsOf(patch).map((part) => [part.id, partNameOf(part, shelf)]))
  const [before, after] = [earlier, later].map((parts) => new Map(parts.map((part) => [part.id, part])))
  /** A part that is gone is named after its gear. */
  const nameOf = ({ id, gear }: SetPart) => names.get(id) ?? shelf.get(gear)?.name ?? id
  return [
    ...controlsApart(earlier, later, shelf).map(({ part, control, one, other }): ChainChange => ({
      kind: 'moved',
      partName: names.get(part) ?? part,
      controlName: control.name,
      from: positionName(control, one),
      to: positionName(control, other),
    })),
    ...later.flatMap((part): ChainChange[] => {
      const was = before!.get(part.id)
      if (was?.gear === part.gear) return []
      return [{ kind: was ? 'swapped' : 'added', partName: nameOf(part) }]
    }),
    ...earlier
      .filter(({ id }) => !after!.has(id))
      .map((part): ChainChange => ({ kind: 'removed', partName: nameOf(part) })),
  ]
}

/** Controls that were at another position which still exists. */
const movedBack = (parts: readonly SetPart[], patch: Patch, shelf: Shelf): ControlApart[] =>
  controlsApart(parts, partsAsSet(patch, shelf), shelfFor(patch, shelf)).filter(({ control, one }) =>
    hasPosition(control, one),
  )

/** Edits that put the controls back where they were. */
export const backTo = (parts: readonly SetPart[], patch: Patch, shelf: Shelf): Edit[] =>
  movedBack(parts, patch, shelf).map(({ part, control, one }) => ({
    kind: 'set control',
    part,
    control: control.id,
    position: one,
  }))

/** The patch with its controls as at a take; unchanged if none was moved. */
export function asTaken(patch: Patch, parts: readonly SetPart[], shelf: Shelf): Patch {
  const edits = backTo(parts, patch, shelf)
  return edits.length > 0 ? applyEdits(patch, edits, shelf) : patch
}
