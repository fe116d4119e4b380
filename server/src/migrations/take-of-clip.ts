import { type Kysely, sql } from 'kysely'

/** A measurement knows which take its clip holds, as JSON; null: none, or not known. */
export async function takeOfClip(db: Kysely<unknown>): Promise<void> {
  await sql`alter table proofs add column take jsonb`.execute(db)
}
