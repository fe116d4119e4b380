import { type Kysely, sql } from 'kysely'

/** A take knows where the controls stood when it began, as JSON by part; nothing: not known. */
export async function takeSettings(db: Kysely<unknown>): Promise<void> {
  await sql`alter table takes add column settings jsonb not null default '{}'`.execute(db)
}
