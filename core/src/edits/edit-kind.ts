import type { z } from 'zod'
import type { Patch, Shelf } from '../model'
import type { Names } from './names'

/** One kind of edit: its schema, what it does to a patch, what takes exactly that back, and how it is said. */
export interface EditKind<S extends z.ZodType, Back> {
  schema: S
  /** The patch with the edit. Throws a Refusal if something it names does not exist. The caller validates the result. */
  apply: (patch: Patch, edit: z.output<S>, shelf: Shelf) => Patch
  /** The edit that takes this one back and nothing else; `after` is the patch with the edit. */
  inverse: (before: Patch, edit: z.output<S>, after: Patch) => Back
  /** Description for history and the conflict dialog: "Gain 1 of Recorder to 41 dB". */
  words: (edit: z.output<S>, names: Names) => string
}

/** Ties the functions of a kind to its schema. */
export const editKind = <S extends z.ZodType, Back>(
  schema: S,
  kind: Omit<EditKind<S, Back>, 'schema'>,
): EditKind<S, Back> => ({ schema, ...kind })
