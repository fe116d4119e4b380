import { type Kysely, sql } from 'kysely'

/** Phones and computers that were let in. Of their secrets only a digest is kept. */
export async function devices(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table devices (
      id uuid primary key, name text not null, secret_digest text not null unique,
      paired_at timestamptz not null default now(), seen_at timestamptz not null default now(), revoked_at timestamptz
    )
  `.execute(db)
}
