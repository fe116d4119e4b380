import { z } from 'zod'
import { Id } from '../model'
import { editKind } from './edit-kind'
import { findBox, withBox } from './parts'

/** Where a microphone stands; null: nowhere in particular. */
export const placeBox = editKind(
  z.strictObject({ kind: z.literal('place box'), box: Id, place: Id.nullable() }),
  {
    apply: (patch, { box, place }) => withBox(patch, box, (each) => ({ ...each, place: place ?? undefined })),
    inverse: (before, edit) => ({ ...edit, place: findBox(before, edit.box)?.place ?? null }),
    words: ({ box, place }, names) =>
      place === null ? `${names.part(box)} has no place` : `${names.part(box)} placed: ${names.place(place)}`,
  },
)
