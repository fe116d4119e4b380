import { z } from 'zod'
import { Cover, Id } from '../model'
import { editKind } from './edit-kind'
import { findBox, withBox } from './parts'

/** Wind protection of a microphone; null: none. */
export const coverBox = editKind(
  z.strictObject({ kind: z.literal('cover box'), box: Id, cover: Cover.nullable() }),
  {
    apply: (patch, { box, cover }) => withBox(patch, box, (each) => ({ ...each, cover: cover ?? undefined })),
    inverse: (before, edit) => ({ ...edit, cover: findBox(before, edit.box)?.cover ?? null }),
    words: ({ box, cover }, names) => `${names.part(box)} covered with ${cover ?? 'nothing'}`,
  },
)
