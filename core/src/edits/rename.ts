import { z } from 'zod'
import { Name } from '../model'
import { editKind } from './edit-kind'

/** The scene's own name. */
export const rename = editKind(z.strictObject({ kind: z.literal('rename'), name: Name }), {
  apply: (patch, { name }) => ({ ...patch, name }),
  inverse: ({ name }, edit) => ({ ...edit, name }),
  words: ({ name }) => `scene renamed to ${name}`,
})
