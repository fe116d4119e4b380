import { type Kysely, sql } from 'kysely'

/** The details of a shoot get revisions, like everything else. */
export async function shootRevisions(db: Kysely<unknown>): Promise<void> {
  await sql`alter table shoots add column revision integer not null default 1 check (revision > 0)`.execute(
    db,
  )
}
