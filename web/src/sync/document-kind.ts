import type { z } from 'zod'
import type { Gone, Request } from '@iron-hush/core/contract'

/** A kind of document that is stored whole. */
export interface DocumentKind<T extends { id: string }> {
  name: 'take' | 'proof' | 'gear'
  schema: z.ZodType<T>
  list: Request
  put: Request<z.ZodType>
  drop: Request<undefined, typeof Gone, z.ZodType<{ revision: number }>>
  /** The scope it is listed under: a scene, or none. */
  scopeOf: (content: T) => string
  order: (one: T, other: T) => number
  /** Both versions as one, where that can be done; left out: the server's stays, and the person is notified. */
  merge?: (mine: T, theirs: T) => T
  /** What is stored instead of mine where another document is in its way; `taken` are all that are there. */
  giveWay?: (mine: T, theirs: T, taken: readonly T[]) => T
}
