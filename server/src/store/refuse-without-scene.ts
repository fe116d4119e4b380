import type { Database } from '../database'
import { notFound } from '../problem'

/** Documents of a scene can be stored only while the scene exists. */
export async function refuseWithoutScene(db: Database, scene: string, what: string): Promise<void> {
  // held until the transaction ends, so that other documents of the scene are stored before or after
  const found = await db
    .selectFrom('scenes')
    .select('id')
    .where('id', '=', scene)
    .forUpdate()
    .executeTakeFirst()
  if (!found) throw notFound(what)
}
