import { z } from 'zod'
import { Id, Link } from '../model'
import { editKind } from './edit-kind'
import { withPieces } from './parts'

/** A cable, pad or adapter into a link, at a position counted from its output. */
export const insertPiece = editKind(
  z.strictObject({
    kind: z.literal('insert piece'),
    link: Id,
    at: z.number().int().min(0).max(8),
    piece: Link.shape.pieces.unwrap().element,
  }),
  {
    apply: (patch, { link, at, piece }) =>
      withPieces(patch, link, ({ pieces }) => pieces.toSpliced(at, 0, piece)),
    inverse: (_, { piece }) => ({ kind: 'remove piece' as const, piece: piece.id }),
    words: ({ link, piece }, names) => `${names.gear(piece.gear)} put between ${names.link(link)}`,
  },
)
