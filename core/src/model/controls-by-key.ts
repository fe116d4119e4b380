import { partsOf } from './lookup'
import { shelfFor } from './check-patch'
import type { Control, Position } from './control'
import type { Shelf } from './gear'
import type { Patch } from './patch'

/** A control with its position in a patch. */
export interface KeyedControl {
  /** `part.control` */
  key: string
  part: string
  control: Control
  position: Position
  locked: boolean
}

/** Controls by their keys, in that order; missing ones are left out. */
export function controlsByKey(patch: Patch, commonShelf: Shelf, keys: readonly string[]): KeyedControl[] {
  const shelf = shelfFor(patch, commonShelf)
  const parts = partsOf(patch)
  return keys.flatMap((key) => {
    const dot = key.indexOf('.')
    const [partId, controlId] = [key.slice(0, dot), key.slice(dot + 1)]
    const part = parts.find(({ id }) => id === partId)
    const control = part && shelf.get(part.gear)?.controls.find(({ id }) => id === controlId)
    if (!part || !control) return []
    const position = part.settings[controlId] ?? control.initial
    return [{ key, part: partId, control, position, locked: part.locked.includes(controlId) }]
  })
}
