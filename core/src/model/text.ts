import { z } from 'zod'

/** A short name a person reads. */
export const Name = z.string().trim().min(1).max(120)

/** A note. Long enough for a page, short enough to store and show. */
export const Note = z.string().max(4000)

/** An identifier inside a document: lower case, figures, hyphens. */
export const Id = z
  .string()
  .min(1)
  .max(64)
  .regex(/^[a-z0-9][a-z0-9-]*$/, 'use lower-case letters, figures and hyphens')

/** An identifier made by a client for a stored thing (UUID, version 7 by our own clients). */
export const Uuid = z.uuid()

/** Where a file's description is: editors look there while it is written. */
export const SchemaLine = z.string().max(400).optional().describe('where this description is; for editors')
