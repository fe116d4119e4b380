import type { Stored } from '@iron-hush/core/contract'
import { conflict } from '../problem'

interface Change<T> {
  /** What the document is called in a sentence. */
  name: string
  /** As it is stored, its row locked; undefined: it is new. */
  now: Stored<T> | undefined
  baseRevision: number
  content: T
  /** Whether two states mean the same. */
  same: (one: T, other: T) => boolean
  write: (revision: number) => Promise<unknown>
}

/**
 * Stores a document over the revision that its change is based on. What is already stored is not stored again, so that
 * a retry is harmless; a change of another revision is a conflict, and both versions go back.
 */
export async function putDocument<T>({
  name,
  now,
  baseRevision,
  content,
  same,
  write,
}: Change<T>): Promise<{ revision: number }> {
  if (now && same(now.content, content)) return { revision: now.revision }
  if ((now?.revision ?? 0) !== baseRevision) throw conflict(name, now ?? null, content)
  const revision = baseRevision + 1
  await write(revision)
  return { revision }
}

/** Equal but for the order of fields. */
export const sameContent = (one: unknown, other: unknown): boolean =>
  JSON.stringify(inOrder(one)) === JSON.stringify(inOrder(other))

function inOrder(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inOrder)
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([one], [other]) => (one < other ? -1 : 1))
      .map(([name, each]) => [name, inOrder(each)]),
  )
}
