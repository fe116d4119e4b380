import { type Kysely, sql } from 'kysely'

/** A take keeps the things of its chain too, each as it was set, for a position means nothing without its thing. */
export async function takeParts(db: Kysely<unknown>): Promise<void> {
  await sql`alter table takes drop column settings`.execute(db)
  await sql`alter table takes add column parts jsonb not null default '[]'`.execute(db)
}
