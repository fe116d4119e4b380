import type { Shoot } from '@iron-hush/core/contract'
import type { Database } from '../database'

/** All shoots with their scenes, in order. */
export async function shootsOf(db: Database): Promise<Shoot[]> {
  const scenes = await db
    .selectFrom('scenes')
    .select(['id', 'shoot_id', 'name', 'revision'])
    .orderBy('position')
    .execute()
  const shoots = await db.selectFrom('shoots').select(['id', 'name']).orderBy('made_at').execute()
  return shoots.map((shoot) => ({
    ...shoot,
    scenes: scenes
      .filter(({ shoot_id }) => shoot_id === shoot.id)
      .map(({ id, name, revision }) => ({ id, name, revision })),
  }))
}
