import type { Unreadable } from '@iron-hush/core/contract'
import { Refusal } from '@iron-hush/core/model'
import type { Database } from '../database'

/** The rows that can be read. An unreadable row does not hide the others; `unreadableIn` lists it. */
export const readable = <Row, T>(rows: readonly Row[], read: (row: Row) => T): T[] =>
  rows.flatMap((row) => {
    const found = tried(row, read)
    return 'why' in found ? [] : [found.content]
  })

function tried<Row, T>(row: Row, read: (row: Row) => T): { content: T } | { why: string } {
  try {
    return { content: read(row) }
  } catch (error) {
    if (error instanceof Refusal) return { why: error.message }
    throw error
  }
}

/** A table, and how one of its rows is read. */
export interface Kept {
  kind: Unreadable['kind']
  rows: (db: Database) => Promise<{ id: string }[]>
  read: (row: never) => unknown
}

/** Unreadable rows of some tables, as stored. */
export async function unreadableIn(db: Database, tables: readonly Kept[]): Promise<Unreadable[]> {
  const all: Unreadable[] = []
  for (const { kind, rows, read } of tables)
    for (const row of await rows(db)) {
      const found = tried(row, read as (each: typeof row) => unknown)
      if ('why' in found) all.push({ kind, id: row.id, why: found.why, content: row })
    }
  return all
}
