import type { Stored } from '@iron-hush/core/contract'
import type { Database } from '../database'
import { conflict, HttpProblem } from '../problem'

interface Change<T> {
  /** Name of the document in a sentence. */
  name: string
  /** The stored document, with its row locked; undefined: it is new. */
  now: (Stored<T> & { removed: boolean }) | undefined
  baseRevision: number
  content: T
  /** Whether two states mean the same. */
  same: (one: T, other: T) => boolean
  write: (revision: number) => Promise<unknown>
}

/**
 * Stores a document over the revision that its change is based on. What is already stored is not stored again, so that
 * a retry is harmless; a change of another revision is a conflict, and both versions go back. What was deleted comes back
 * only for one who knows that it was: with the revision that the deletion was answered with.
 */
export async function putDocument<T>({
  name,
  now,
  baseRevision,
  content,
  same,
  write,
}: Change<T>): Promise<{ revision: number }> {
  if (now && !now.removed && same(now.content, content)) return { revision: now.revision }
  if ((now?.revision ?? 0) !== baseRevision) {
    if (now && !now.removed) throw conflict(name, { revision: now.revision, content: now.content }, content)
    throw deletedElsewhere(name, content)
  }
  const revision = baseRevision + 1
  await write(revision)
  return { revision }
}

const deletedElsewhere = (name: string, yours: unknown) =>
  new HttpProblem(
    409,
    'Deleted elsewhere',
    `${name} was deleted elsewhere in the meantime. This change was not stored.`,
    { theirs: null, yours },
  )

/**
 * Takes a document away, if it is still as the one who deletes it saw it. The row stays, marked. The same deletion sent
 * again gets the same answer.
 *
 * @param readTheirs reads the document for the conflict, with its name
 */
export async function removeDocument(
  db: Database,
  table: 'takes' | 'proofs' | 'gear',
  { id, revision: seen }: { id: string; revision: number },
  readTheirs: () => Promise<{ name: string; theirs: Stored<unknown> | undefined }>,
): Promise<{ gone: boolean; revision: number }> {
  // the three have these columns in common
  const one = table as 'takes'
  const row = await db
    .selectFrom(one)
    .select(['revision', 'removed_at'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirst()
  if (!row) return { gone: false, revision: 0 }
  if (row.removed_at) return { gone: row.revision === seen + 1, revision: row.revision }
  if (row.revision !== seen) {
    const { name, theirs } = await readTheirs()
    throw conflict(name, theirs ?? null, null)
  }
  const revision = seen + 1
  await db.updateTable(one).set({ removed_at: new Date(), revision }).where('id', '=', id).execute()
  return { gone: true, revision }
}

/** Equal but for the order of fields. */
export const sameContent = (one: unknown, other: unknown): boolean =>
  JSON.stringify(inOrder(one)) === JSON.stringify(inOrder(other))

/** With the fields of every object in one order. */
export function inOrder(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inOrder)
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([one], [other]) => (one < other ? -1 : 1))
      .map(([name, each]) => [name, inOrder(each)]),
  )
}
