import { Patch, refuseBadPatch } from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, notFound } from '../problem'
import { shelfFor } from './gear'
import { sameContent } from './put-document'
import { insertScene } from './scenes'
import { refuseWithoutShoot } from './shoots'

/** Creates a scene at the end of a shoot. The same sent again changes nothing; another under its id is refused. */
export function createScene(
  db: Database,
  id: string,
  { shoot, patch }: { shoot: string; patch: Patch },
): Promise<{ revision: number }> {
  return db.transaction().execute(async (transaction) => {
    const known = await transaction
      .selectFrom('scenes')
      .select('revision')
      .where('id', '=', id)
      .executeTakeFirst()
    if (known) {
      await refuseAnother(transaction, id, patch)
      return known
    }
    await refuseWithoutShoot(transaction, shoot)
    refuseBadPatch(patch, await shelfFor(transaction, patch, []), patch.name)
    await insertScene(transaction, { id, shoot, position: await endOf(transaction, shoot), patch })
    return { revision: 1 }
  })
}

/** The original, as long as it is remembered. */
async function refuseAnother(db: Database, id: string, patch: Patch): Promise<void> {
  const first = await db
    .selectFrom('scene_snapshots')
    .select('patch')
    .where('scene_id', '=', id)
    .where('revision', '=', 1)
    .executeTakeFirst()
  const { success, data } = Patch.safeParse(first?.patch)
  if (success && !sameContent(data, patch)) throw conflict('Another scene with this id', data, patch)
}

export async function deleteScene(db: Database, id: string): Promise<{ done: boolean }> {
  const { numUpdatedRows } = await db
    .updateTable('scenes')
    .set({ removed_at: new Date() })
    .where('id', '=', id)
    .where('removed_at', 'is', null)
    .executeTakeFirst()
  return { done: numUpdatedRows > 0 }
}

export async function restoreScene(db: Database, id: string): Promise<{ done: boolean }> {
  const { numUpdatedRows } = await db
    .updateTable('scenes')
    .set({ removed_at: null })
    .where('id', '=', id)
    .executeTakeFirst()
  if (numUpdatedRows === 0n) throw notFound('This scene')
  return { done: true }
}

/** Moves a scene to a place in a shoot; the scenes behind it move on by one. */
export function moveScene(
  db: Database,
  id: string,
  { shoot, position }: { shoot: string; position: number },
): Promise<{ done: boolean }> {
  return db.transaction().execute(async (transaction) => {
    await refuseWithoutShoot(transaction, shoot)
    const others = await transaction
      .selectFrom('scenes')
      .select('id')
      .where('shoot_id', '=', shoot)
      .where('id', '!=', id)
      .where('removed_at', 'is', null)
      .orderBy('position')
      .execute()
    const order = others.map((each) => each.id).toSpliced(position, 0, id)
    const moved = await transaction
      .updateTable('scenes')
      .set({ shoot_id: shoot })
      .where('id', '=', id)
      .executeTakeFirst()
    if (moved.numUpdatedRows === 0n) throw notFound('This scene')
    for (const [index, each] of order.entries())
      await transaction.updateTable('scenes').set({ position: index }).where('id', '=', each).execute()
    return { done: true }
  })
}

async function endOf(db: Database, shoot: string): Promise<number> {
  const { last } = await db
    .selectFrom('scenes')
    .select(({ fn }) => fn.max('position').as('last'))
    .where('shoot_id', '=', shoot)
    .executeTakeFirstOrThrow()
  return (last ?? -1) + 1
}
