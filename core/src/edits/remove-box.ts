import { z } from 'zod'
import { Id } from '../model'
import { editKind } from './edit-kind'
import { wiringRestore } from './restore-wiring'

/** A box out of the chain. */
export const removeBox = editKind(z.strictObject({ kind: z.literal('remove box'), box: Id }), {
  apply: (patch, { box }) => ({ ...patch, boxes: patch.boxes.filter(({ id }) => id !== box) }),
  inverse: (before, _, after) => wiringRestore(before, after),
  words: ({ box }, names) => `${names.part(box)} removed`,
})
