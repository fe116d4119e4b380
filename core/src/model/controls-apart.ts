import type { Control, Position } from './control'
import type { Shelf } from './gear'
import type { SetPart } from './patch'

/** A control whose position differs between two settings of a chain. */
export interface ControlApart {
  part: string
  control: Control
  one: Position
  other: Position
}

/**
 * The controls that stand elsewhere, of parts that are the same thing both times.
 *
 * @param shelf the shelf of the patch, its own gear included (shelfFor)
 */
export function controlsApart(
  one: readonly SetPart[],
  other: readonly SetPart[],
  shelf: Shelf,
): ControlApart[] {
  const others = new Map(other.map((part) => [part.id, part]))
  return one.flatMap(({ id, gear, settings }) => {
    const twin = others.get(id)
    if (twin?.gear !== gear) return []
    return (shelf.get(gear)?.controls ?? []).flatMap((control): ControlApart[] => {
      const apart = {
        part: id,
        control,
        one: settings[control.id] ?? control.initial,
        other: twin.settings[control.id] ?? control.initial,
      }
      return apart.one === apart.other ? [] : [apart]
    })
  })
}
