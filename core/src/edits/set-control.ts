import { z } from 'zod'
import { Id, Position, positionName } from '../model'
import { editKind } from './edit-kind'
import { partOf, withPart } from './parts'

/** A control to a position; null: as the maker ships it. */
export const setControl = editKind(
  z.strictObject({ kind: z.literal('set control'), part: Id, control: Id, position: Position.nullable() }),
  {
    apply: (patch, { part, control, position }) =>
      withPart(patch, part, ({ settings }) => {
        const others = Object.entries(settings).filter(([id]) => id !== control)
        const own = position === null ? [] : [[control, position] as const]
        return { settings: Object.fromEntries([...others, ...own]) }
      }),
    inverse: (before, edit) => ({
      ...edit,
      position: partOf(before, edit.part).settings[edit.control] ?? null,
    }),
    words({ part, control: id, position }, names) {
      const control = names.control(part, id)
      const to = position ?? control?.initial
      const said = control && to !== undefined ? positionName(control, to) : String(to)
      return `${control?.name ?? id} of ${names.part(part)} to ${said}`
    },
  },
)
