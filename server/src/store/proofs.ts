import { type Stored, stored } from '@iron-hush/core/contract'
import { parse, ProofRecord } from '@iron-hush/core/model'
import type { Selectable } from 'kysely'
import type { Database, Tables } from '../database'
import { putDocument, sameContent } from './put-document'
import { type Kept, readable } from './unreadable'
import { refuseWithoutScene } from './refuse-without-scene'

const StoredProof = stored(ProofRecord)

/** What was measured for a scene, newest first. */
export const proofsOf = (db: Database, scene: string): Promise<Stored<ProofRecord>[]> =>
  proofsWhere(db, 'scene_id', scene)

export function changeProof(
  db: Database,
  { baseRevision, content }: { baseRevision: number; content: ProofRecord },
): Promise<{ revision: number }> {
  return db.transaction().execute(async (transaction) => {
    await refuseWithoutScene(transaction, content.scene, 'The scene of this clip')
    await transaction
      .selectFrom('proofs')
      .select('id')
      .where('id', '=', content.id)
      .forUpdate()
      .executeTakeFirst()
    const [now] = await proofsWhere(transaction, 'id', content.id)
    return putDocument({
      name: `The measurement of ${content.measurement.clip}`,
      now,
      baseRevision,
      content,
      same: sameContent,
      write: (revision) => write(transaction, content, revision),
    })
  })
}

export async function dropProof(db: Database, id: string): Promise<{ gone: boolean }> {
  const { numDeletedRows } = await db.deleteFrom('proofs').where('id', '=', id).executeTakeFirst()
  return { gone: numDeletedRows > 0 }
}

async function proofsWhere(
  db: Database,
  column: 'scene_id' | 'id',
  value: string,
): Promise<Stored<ProofRecord>[]> {
  const rows = await db
    .selectFrom('proofs')
    .selectAll()
    .where(column, '=', value)
    .orderBy('measured_at', 'desc')
    .limit(500)
    .execute()
  return readable(rows, fromRow)
}

export const keptProofs: Kept = {
  kind: 'proof',
  rows: (db) => db.selectFrom('proofs').selectAll().execute(),
  read: fromRow,
}

function fromRow(row: Selectable<Tables['proofs']>): Stored<ProofRecord> {
  const content = {
    id: row.id,
    scene: row.scene_id,
    recording: row.recording,
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
    measured_at: proof.measuredAt,
    measurement: JSON.stringify(proof.measurement),
    revision,
  }
  await db
    .insertInto('proofs')
    .values(row)
    .onConflict((clash) => clash.column('id').doUpdateSet(row))
    .execute()
}
