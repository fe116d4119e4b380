import { z } from 'zod'
import { Box } from '../model'
import { editKind } from './edit-kind'

/** A box into the chain, connected to nothing yet. */
export const addBox = editKind(z.strictObject({ kind: z.literal('add box'), box: Box }), {
  apply: (patch, { box }) => ({ ...patch, boxes: [...patch.boxes, box] }),
  inverse: (_, { box }) => ({ kind: 'remove box' as const, box: box.id }),
  words: ({ box }, names) => `${box.name ?? names.gear(box.gear)} added`,
})
