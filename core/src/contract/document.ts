import { z } from 'zod'
import { largestInteger } from '../model'

export const Revision = z.number().int().min(1).max(largestInteger)

/** A document as the server keeps it. The revision counts its changes. */
export const stored = <T extends z.ZodType>(content: T) => z.strictObject({ revision: Revision, content })
export interface Stored<T> {
  revision: number
  content: T
}

/** A document on its way to the server, with the revision that it changes. */
export const change = <T extends z.ZodType>(content: T) =>
  z.strictObject({
    baseRevision: z.number().int().min(0).max(largestInteger).describe('0: it is new'),
    content,
  })

/** The answer to a change that was stored. */
export const NewRevision = z.strictObject({ revision: Revision })

/** The revision that a deletion is based on: which state the person saw. */
export const AtRevision = z.strictObject({ revision: z.coerce.number().pipe(Revision) })

/** The answer to a deletion. */
export const Gone = z.strictObject({
  gone: z.boolean().describe('false: it was not there'),
  revision: z
    .number()
    .int()
    .min(0)
    .describe('what it is put back with, as its base revision; 0: it was never there'),
})
