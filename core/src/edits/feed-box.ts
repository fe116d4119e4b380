import { z } from 'zod'
import { Id } from '../model'
import { editKind } from './edit-kind'
import { findBox, withBox } from './parts'

/** Which line source of the brief a desk or player carries; null: none. */
export const feedBox = editKind(
  z.strictObject({ kind: z.literal('feed box'), box: Id, source: Id.nullable() }),
  {
    apply: (patch, { box, source }) =>
      withBox(patch, box, (each) => ({ ...each, source: source ?? undefined })),
    inverse: (before, edit) => ({ ...edit, source: findBox(before, edit.box)?.source ?? null }),
    words: ({ box, source }, names) =>
      source === null
        ? `${names.part(box)} carries nothing`
        : `${names.part(box)} carries ${names.source(source)}`,
  },
)
