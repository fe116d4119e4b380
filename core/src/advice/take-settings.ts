import { applyEdits, type Edit } from '../edits'
import {
  boxNameOf,
  type Control,
  gearOf,
  type Patch,
  piecesOf,
  positionName,
  type Shelf,
  shelfFor,
  type Take,
} from '../model'

type TakeSettings = Take['settings']

/** A control that stood elsewhere once. */
export interface MovedControl {
  part: string
  partName: string
  control: string
  controlName: string
  /** The positions by their names. */
  from: string
  to: string
}

interface PartControls {
  part: string
  name: string
  controls: readonly Control[]
  settings: TakeSettings[string]
}

function partsOf(patch: Patch, commonShelf: Shelf): PartControls[] {
  const shelf = shelfFor(patch, commonShelf)
  return [
    ...patch.boxes.map((box) => ({ ...box, name: boxNameOf(box, shelf) })),
    ...piecesOf(patch).map((piece) => ({ ...piece, name: gearOf(shelf, piece.gear).name })),
  ].map(({ id, name, gear, settings }) => ({
    part: id,
    name,
    controls: gearOf(shelf, gear).controls,
    settings,
  }))
}

/** Where every control of a patch stands: what a take keeps of it. */
export const settingsNow = (patch: Patch, shelf: Shelf): TakeSettings =>
  Object.fromEntries(
    partsOf(patch, shelf)
      .filter(({ controls }) => controls.length > 0)
      .map(({ part, controls, settings }) => [
        part,
        Object.fromEntries(controls.map(({ id, initial }) => [id, settings[id] ?? initial])),
      ]),
  )

/** The controls that stood elsewhere later, of parts that the chain still has; none where one time is not known. */
export function movedControls(
  earlier: TakeSettings,
  later: TakeSettings,
  patch: Patch,
  shelf: Shelf,
): MovedControl[] {
  return partsOf(patch, shelf).flatMap(({ part, name, controls }) =>
    controls.flatMap((control) => {
      const from = earlier[part]?.[control.id]
      const to = later[part]?.[control.id]
      if (from === undefined || to === undefined || from === to) return []
      const named = (position: typeof from) => positionName(control, position)
      return [
        {
          ...{ part, partName: name, control: control.id, controlName: control.name },
          ...{ from: named(from), to: named(to) },
        },
      ]
    }),
  )
}

/** What puts the controls back to where they stood. */
export const backTo = (settings: TakeSettings, patch: Patch, shelf: Shelf): Edit[] =>
  movedControls(settings, settingsNow(patch, shelf), patch, shelf).flatMap(({ part, control }) => {
    const position = settings[part]?.[control]
    return position === undefined ? [] : [{ kind: 'set control', part, control, position }]
  })

/** The patch with its controls as they stood at a take. */
export function asTaken(patch: Patch, settings: TakeSettings, shelf: Shelf): Patch {
  const edits = backTo(settings, patch, shelf)
  return edits.length > 0 ? applyEdits(patch, edits, shelf) : patch
}
