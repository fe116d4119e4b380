import { type ColumnType, type Generated, Kysely, PostgresDialect } from 'kysely'
import pg from 'pg'
import type { Take } from '@iron-hush/core/model'

/** JSON is written as text and read as unknown; every reader parses it with a schema. */
type Json = ColumnType<unknown, string, string>
type Time = ColumnType<Date, Date | string, Date | string>

/** When it was deleted; null while it is there. */
type Removed = ColumnType<Date | null, Date | null | undefined, Date | null>

export interface Tables {
  shoots: {
    id: string
    name: string
    date: ColumnType<Date | null, string | null | undefined, string | null>
    place: Generated<string>
    demo: Generated<boolean>
    revision: Generated<number>
    removed_at: Removed
    made_at: ColumnType<Date, never, never>
  }
  scenes: {
    id: string
    shoot_id: string
    position: number
    name: string
    revision: number
    changed_at: ColumnType<Date, never, Date>
    removed_at: Removed
  }
  /** Every change of a scene: history, idempotence and conflicts rest on it. */
  scene_edits: {
    scene_id: string
    revision: number
    change_id: string
    /** Fingerprint of the request, so that another request under the same id is noticed; null in old rows. */
    digest: string | null
    edits: Json
    made_at: ColumnType<Date, never, never>
  }
  /** States of a scene now and then, from which the edits go on. */
  scene_snapshots: {
    scene_id: string
    revision: number
    patch: Json
    made_at: ColumnType<Date, never, never>
  }
  /** Shelf gear that a scene uses, with its name there. */
  scene_parts: { scene_id: string; position: number; part: string; gear_id: string }
  gear: {
    id: string
    name: string
    maker: string
    kind: string
    owned: number
    revision: number
    document: Json
    removed_at: Removed
  }
  takes: {
    id: string
    scene_id: string
    number: number
    started_at: Time
    ended_at: ColumnType<Date | null, string | null, string | null>
    verdict: string
    note: string
    parts: ColumnType<Take['parts'], string | undefined, string>
    revision: number
    removed_at: Removed
  }
  marks: { id: string; take_id: string; kind: string; at_s: number; channel: string; note: string }
  proofs: {
    id: string
    scene_id: string
    clip: string
    recording: string
    measured_at: Time
    take: ColumnType<unknown, string | null, string | null>
    measurement: Json
    revision: number
    removed_at: Removed
  }
  devices: {
    id: string
    name: string
    secret_digest: string
    paired_at: ColumnType<Date, never, never>
    seen_at: ColumnType<Date, never, Date>
    revoked_at: ColumnType<Date | null, never, Date>
  }
  lineage: { id: string; begun_at: ColumnType<Date, never, never> }
  migrations: { name: string; made_at: ColumnType<Date, never, never> }
}

export type Database = Kysely<Tables>

/** How long anything may take before it is given up, ms: a query, a wait for a row, a transaction left open, a connection. */
const limits = { query: 15_000, lock: 5_000, leftOpen: 30_000, connection: 5_000 }

/** Opens a pool. Connections lost while idle are re-established at the next query. */
export function connect(url: string, lost: (error: Error) => void = () => undefined): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    connectionTimeoutMillis: limits.connection,
    statement_timeout: limits.query,
    lock_timeout: limits.lock,
    idle_in_transaction_session_timeout: limits.leftOpen,
  })
  pool.on('error', lost)
  // the pool hears of idle connections alone: one that is lost in the middle of a transaction must not end the server
  pool.on('connect', (client) => void client.on('error', lost))
  return new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) })
}
