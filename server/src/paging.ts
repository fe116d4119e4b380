import { Refusal } from '@iron-hush/core/model'
import { z } from 'zod'

/** Which part of a list is asked for. */
export interface PageAsked {
  limit: number
  /** Keys of the last row before it; left out: from the beginning. */
  after?: string[]
}

/** A page of a list, with the cursor of the next; left out: it is the last. */
export interface Page<T> {
  rows: T[]
  next?: string
}

/** Largest page of a list, whatever is asked for. */
const largestPage = 1000

const Keys = z.array(z.string().max(300)).min(1).max(4)
const Asked = z.object({
  limit: z.coerce.number().int().min(1).optional(),
  after: z.string().max(2000).optional(),
})

/** Reads `limit` and `after` of a query. */
export function pageAsked(query: unknown, usual: number): PageAsked {
  const asked = Asked.safeParse(query)
  const after = asked.data?.after === undefined ? undefined : keysIn(asked.data.after)
  if (!asked.success || after === null)
    throw new Refusal(
      'This page of a list was refused: "limit" is a number from 1 on, and "after" is what the page before ended with.',
    )
  return { limit: Math.min(asked.data.limit ?? usual, largestPage), after }
}

function keysIn(after: string): string[] | null {
  try {
    return Keys.safeParse(JSON.parse(Buffer.from(after, 'base64url').toString('utf8'))).data ?? null
  } catch {
    return null
  }
}

/** Makes a page of rows: one row more than fits shows that another page follows. */
export function pageOf<Row, T>(
  found: readonly Row[],
  { limit }: PageAsked,
  keys: (row: Row) => string[],
  read: (rows: readonly Row[]) => T[],
): Page<T> {
  const rows = found.slice(0, limit)
  const last = rows.at(-1)
  const next =
    found.length > limit && last
      ? Buffer.from(JSON.stringify(keys(last)), 'utf8').toString('base64url')
      : undefined
  return { rows: read(rows), next }
}
