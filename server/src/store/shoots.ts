import { sql } from 'kysely'
import type { Shoot, ShootFacts } from '@iron-hush/core/contract'
import type { Database } from '../database'
import { notFound } from '../problem'

/** All shoots with their scenes, in order; what was deleted is left out. */
export async function shootsOf(db: Database): Promise<Shoot[]> {
  const scenes = await db
    .selectFrom('scenes')
    .select(['id', 'shoot_id', 'name', 'revision'])
    .where('removed_at', 'is', null)
    .orderBy('position')
    .orderBy('changed_at')
    .execute()
  const shoots = await db
    .selectFrom('shoots')
    .select(['id', 'name', sql<string | null>`to_char(date, 'YYYY-MM-DD')`.as('date'), 'place', 'demo'])
    .where('removed_at', 'is', null)
    // one's own first, the newest in front
    .orderBy('demo')
    .orderBy('made_at', 'desc')
    .execute()
  return shoots.map((shoot) => ({
    ...shoot,
    scenes: scenes
      .filter(({ shoot_id }) => shoot_id === shoot.id)
      .map(({ id, name, revision }) => ({ id, name, revision })),
  }))
}

/** Makes a shoot, or changes what is said of it. */
export async function putShoot(
  db: Database,
  id: string,
  { name, date, place }: ShootFacts,
): Promise<{ done: boolean }> {
  await db
    .insertInto('shoots')
    .values({ id, name, date, place })
    .onConflict((clash) => clash.column('id').doUpdateSet({ name, date, place }))
    .execute()
  return { done: true }
}

export async function deleteShoot(db: Database, id: string): Promise<{ done: boolean }> {
  const { numUpdatedRows } = await db
    .updateTable('shoots')
    .set({ removed_at: new Date() })
    .where('id', '=', id)
    .where('removed_at', 'is', null)
    .executeTakeFirst()
  return { done: numUpdatedRows > 0 }
}

export async function restoreShoot(db: Database, id: string): Promise<{ done: boolean }> {
  const { numUpdatedRows } = await db
    .updateTable('shoots')
    .set({ removed_at: null })
    .where('id', '=', id)
    .executeTakeFirst()
  if (numUpdatedRows === 0n) throw notFound('This shoot')
  return { done: true }
}

/** A scene can be put only into a shoot that is there. */
export async function refuseWithoutShoot(db: Database, id: string): Promise<void> {
  const found = await db.selectFrom('shoots').select('id').where('id', '=', id).executeTakeFirst()
  if (!found) throw notFound('This shoot')
}
