import { type Kysely, sql } from 'kysely'

/** Shoots and scenes of one's own: dated, ordered, deleted and restored. */
export async function ownShoots(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table shoots add column date date;
    alter table shoots add column place text not null default '';
    alter table shoots add column demo boolean not null default false;
    alter table shoots add column removed_at timestamptz;
    alter table scenes add column removed_at timestamptz;
    -- until now there was no other shoot than the one that came with the application
    update shoots set demo = true where name = 'Bell foundry, short film';
  `.execute(db)
}
