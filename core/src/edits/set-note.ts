import { z } from 'zod'
import { Note } from '../model'
import { editKind } from './edit-kind'

/** The note of the scene. */
export const setNote = editKind(z.strictObject({ kind: z.literal('note'), note: Note }), {
  apply: (patch, { note }) => ({ ...patch, note }),
  inverse: ({ note }, edit) => ({ ...edit, note }),
  words: () => 'note of the scene changed',
})
