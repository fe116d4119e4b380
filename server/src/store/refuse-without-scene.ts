import type { Database } from '../database'
import { notFound } from '../problem'

/** What belongs to a scene can be stored only while that is there. */
export async function refuseWithoutScene(db: Database, scene: string, what: string): Promise<void> {
  // held until the transaction ends: whatever else belongs to the scene is stored before or after
  const found = await db
    .selectFrom('scenes')
    .select('id')
    .where('id', '=', scene)
    .forUpdate()
    .executeTakeFirst()
  if (!found) throw notFound(what)
}
