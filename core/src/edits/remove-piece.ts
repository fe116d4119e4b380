import { z } from 'zod'
import { Id, type Patch } from '../model'
import { editKind } from './edit-kind'
import { notInChain, unbranched, withPieces } from './parts'
import { wiringRestore } from './restore-wiring'

/** A cable, pad or adapter out of its link. */
export const removePiece = editKind(z.strictObject({ kind: z.literal('remove piece'), piece: Id }), {
  apply: (patch, { piece }) =>
    withPieces(unbranched(patch, piece), linkIdOfPiece(patch, piece), ({ pieces }) =>
      pieces.filter(({ id }) => id !== piece),
    ),
  inverse: (before, _, after) => wiringRestore(before, after),
  words: ({ piece }, names) => `${names.part(piece)} taken out`,
})

function linkIdOfPiece(patch: Patch, piece: string): string {
  const link = patch.links.find(({ pieces }) => pieces.some(({ id }) => id === piece))
  if (!link) throw notInChain(piece)
  return link.id
}
