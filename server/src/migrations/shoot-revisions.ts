import { type Kysely, sql } from 'kysely'

/** What is said of a shoot is changed by revision, as everything else is. */
export async function shootRevisions(db: Kysely<unknown>): Promise<void> {
  await sql`alter table shoots add column revision integer not null default 1 check (revision > 0)`.execute(
    db,
  )
}
