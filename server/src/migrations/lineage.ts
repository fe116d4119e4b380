import { type Kysely, sql } from 'kysely'

/** Which life of the data this is: a restored backup begins a new one, and devices that knew the other are notified. */
export async function lineage(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table lineage (id uuid not null, begun_at timestamptz not null default now());
    insert into lineage (id) values (gen_random_uuid());
  `.execute(db)
}
