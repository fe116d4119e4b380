import { sql } from 'kysely'
import { uuidv7 } from '@iron-hush/core/model'
import type { Database } from '../database'
import { SceneStore, takeSnapshot } from './scenes'

/** Jump of all revisions when a backup is restored, so that no device can know one of them. */
const jump = 1_000_000

export async function lineageOf(db: Database): Promise<string> {
  return (await db.selectFrom('lineage').select('id').executeTakeFirstOrThrow()).id
}

/**
 * Begins a new life of the data after it was restored: no revision that a device remembers is a revision here any more,
 * so that whatever it sends on top of one meets a conflict and is shown, and never overwrites in silence.
 */
export const beginLineage = (db: Database): Promise<void> =>
  db.transaction().execute(async (transaction) => {
    const id = uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
    await transaction.deleteFrom('lineage').execute()
    await transaction.insertInto('lineage').values({ id }).execute()
    const store = new SceneStore()
    for (const scene of await transaction.selectFrom('scenes').select(['id', 'revision']).execute()) {
      const { patch } = await store.read(transaction, scene.id)
      const revision = scene.revision + jump
      await takeSnapshot(transaction, scene.id, revision, patch)
      await transaction.updateTable('scenes').set({ revision }).where('id', '=', scene.id).execute()
    }
    for (const table of ['takes', 'proofs', 'gear'])
      await sql`update ${sql.table(table)} set revision = revision + ${sql.lit(jump)}`.execute(transaction)
  })
