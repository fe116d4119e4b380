import { type Kysely, sql } from 'kysely'
import type { Database } from './database'
import { devices } from './migrations/devices'
import { edits } from './migrations/edits'
import { formatTwo } from './migrations/format-two'
import { lineage } from './migrations/lineage'
import { notifications } from './migrations/notifications'
import { shootRevisions } from './migrations/shoot-revisions'
import { takeOfClip } from './migrations/take-of-clip'
import { takeParts } from './migrations/take-parts'
import { takeSettings } from './migrations/take-settings'
import { tombstones } from './migrations/tombstones'
import { ownShoots } from './migrations/own-shoots'
import { first } from './migrations/first'

/** In order, forward only. A name, once released, is never changed or taken out. */
const migrations: [string, (db: Kysely<unknown>) => Promise<void>][] = [
  ['0001-first', first],
  ['0002-edits', edits],
  ['0003-format-two', formatTwo],
  ['0004-own-shoots', ownShoots],
  ['0005-tombstones', tombstones],
  ['0006-notifications', notifications],
  ['0007-devices', devices],
  ['0008-lineage', lineage],
  ['0009-shoot-revisions', shootRevisions],
  ['0010-take-of-clip', takeOfClip],
  ['0011-take-settings', takeSettings],
  ['0012-take-parts', takeParts],
]

/** A database that this release cannot use; the message says what to do. */
export class DatabaseTooNew extends Error {
  override name = 'DatabaseTooNew'
}

/** Any number, the same in every server of this application (PostgreSQL advisory locks, 13.3.5). */
const startingLock = 17_340_871

/** Start-up work that only one server at a time may do; others wait. */
export const alone = <T>(db: Database, work: () => Promise<T>): Promise<T> =>
  db.connection().execute(async (held) => {
    await sql`select set_config('lock_timeout', '0', false), set_config('statement_timeout', '0', false)`.execute(
      held,
    )
    await sql`select pg_advisory_lock(${sql.lit(startingLock)})`.execute(held)
    try {
      return await work()
    } finally {
      await sql`select pg_advisory_unlock(${sql.lit(startingLock)})`.execute(held)
      await sql`reset lock_timeout`.execute(held)
      await sql`reset statement_timeout`.execute(held)
    }
  })

/** Brings a database to this release, each step whole or not at all. Changes nothing in one that is newer. */
export async function migrate(db: Database): Promise<void> {
  await sql`create table if not exists migrations (name text primary key, made_at timestamptz not null default now())`.execute(
    db,
  )
  const done = new Set((await db.selectFrom('migrations').select('name').execute()).map(({ name }) => name))
  const known = new Set(migrations.map(([name]) => name))
  const newer = [...done].filter((name) => !known.has(name))
  if (newer.length)
    throw new DatabaseTooNew(
      `The database was made by a newer Iron Hush (step ${newer.at(-1)}). Start that release, or set IRON_HUSH_HOME to another folder; nothing was changed.`,
    )
  for (const [name, make] of migrations)
    if (!done.has(name))
      await db.transaction().execute(async (change) => {
        // however much there is to bring along
        await sql`set local statement_timeout = 0`.execute(change)
        await make(change as unknown as Kysely<unknown>)
        await change.insertInto('migrations').values({ name }).execute()
      })
}
