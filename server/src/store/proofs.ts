import { type Stored, stored } from '@iron-hush/core/contract'
import { parse, ProofRecord } from '@iron-hush/core/model'
import { type Selectable, sql } from 'kysely'
import type { Database, Tables } from '../database'
import { conflict } from '../problem'
import { type Page, type PageAsked, pageOf } from '../paging'
import { putDocument, removeDocument, sameContent } from './put-document'
import { type Kept, readable } from './unreadable'
import { refuseWithoutScene } from './refuse-without-scene'

const StoredProof = stored(ProofRecord)

/** Measurements of a scene, newest first. */
export async function proofsOf(
  db: Database,
  scene: string,
  page: PageAsked,
): Promise<Page<Stored<ProofRecord>>> {
  let asked = db
    .selectFrom('proofs')
    .selectAll()
    // finer than a date of the language holds, so that no row falls between two pages
    .select(sql<string>`measured_at::text`.as('place'))
    .where('scene_id', '=', scene)
    .where('removed_at', 'is', null)
    .orderBy('measured_at', 'desc')
    .orderBy('id', 'desc')
    .limit(page.limit + 1)
  if (page.after)
    asked = asked.where(
      sql<boolean>`(measured_at, id) < (${page.after[0]}::timestamptz, ${page.after[1]}::uuid)`,
    )
  return pageOf(
    await asked.execute(),
    page,
    ({ place, id }) => [place, id],
    (rows) => readable(rows, fromRow),
  )
}

export function changeProof(
  db: Database,
  { baseRevision, content }: { baseRevision: number; content: ProofRecord },
): Promise<{ revision: number }> {
  return db.transaction().execute(async (transaction) => {
    await refuseWithoutScene(transaction, content.scene, 'The scene of this clip')
    return putDocument({
      name: nameOf(content),
      now: await lockedProof(transaction, content.id),
      baseRevision,
      content,
      same: sameContent,
      write: (revision) => write(transaction, content, revision),
    })
  })
}

export const dropProof = (db: Database, id: string, revision: number) =>
  db.transaction().execute((transaction) =>
    removeDocument(transaction, 'proofs', { id, revision }, async () => {
      const theirs = await lockedProof(transaction, id)
      return { name: theirs ? nameOf(theirs.content) : 'This measurement', theirs }
    }),
  )

const nameOf = ({ measurement: { clip } }: ProofRecord) => `The measurement of ${clip}`

/** A measurement as it is stored, also where it is marked as deleted; nobody else changes it meanwhile. */
async function lockedProof(db: Database, id: string) {
  const row = await db.selectFrom('proofs').selectAll().where('id', '=', id).forUpdate().executeTakeFirst()
  return row && { ...fromRow(row), removed: row.removed_at !== null }
}

export const keptProofs: Kept = {
  kind: 'proof',
  rows: (db) => db.selectFrom('proofs').selectAll().where('removed_at', 'is', null).execute(),
  read: fromRow,
}

function fromRow(row: Selectable<Tables['proofs']>): Stored<ProofRecord> {
  const content = {
    id: row.id,
    scene: row.scene_id,
    recording: row.recording,
    take: row.take,
    measuredAt: row.measured_at.toISOString(),
    measurement: row.measurement,
  }
  return parse(StoredProof, { revision: row.revision, content }, 'The stored measurement')
}

async function write(db: Database, proof: ProofRecord, revision: number): Promise<void> {
  const row = {
    id: proof.id,
    scene_id: proof.scene,
    clip: proof.measurement.clip,
    recording: proof.recording,
    take: proof.take && JSON.stringify(proof.take),
    measured_at: proof.measuredAt,
    measurement: JSON.stringify(proof.measurement),
    revision,
    removed_at: null,
  }
  const written = await db
    .insertInto('proofs')
    .values(row)
    // a new one that has come by another way in the meantime stays
    .onConflict((clash) =>
      revision === 1 ? clash.column('id').doNothing() : clash.column('id').doUpdateSet(row),
    )
    .returning('id')
    .executeTakeFirst()
  if (!written) throw conflict('This measurement', null, proof)
}
