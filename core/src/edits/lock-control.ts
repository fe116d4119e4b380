import { z } from 'zod'
import { Id } from '../model'
import { editKind } from './edit-kind'
import { partOf, withPart } from './parts'

/** A control that Balance leaves alone, or no longer. */
export const lockControl = editKind(
  z.strictObject({ kind: z.literal('lock control'), part: Id, control: Id, locked: z.boolean() }),
  {
    apply: (patch, edit) =>
      withPart(patch, edit.part, ({ locked }) => ({
        locked: edit.locked
          ? [...new Set([...locked, edit.control])]
          : locked.filter((id) => id !== edit.control),
      })),
    inverse: (before, edit) => ({ ...edit, locked: partOf(before, edit.part).locked.includes(edit.control) }),
    words: ({ part, control, locked }, names) =>
      `${names.control(part, control)?.name ?? control} of ${names.part(part)} ${locked ? 'locked' : 'unlocked'}`,
  },
)
