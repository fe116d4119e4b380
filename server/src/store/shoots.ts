import { sql } from 'kysely'
import type { Shoot, ShootFacts } from '@iron-hush/core/contract'
import type { Database } from '../database'
import { type Page, type PageAsked, pageOf } from '../paging'
import { notFound } from '../problem'
import { putDocument, sameContent } from './put-document'

const dayOf = sql<string | null>`to_char(date, 'YYYY-MM-DD')`.as('date')

/** Shoots with their scenes, a page of them; what was deleted is left out. */
export async function shootsOf(db: Database, page: PageAsked): Promise<Page<Shoot>> {
  let asked = db
    .selectFrom('shoots')
    .select(['id', 'name', dayOf, 'place', 'demo', 'revision'])
    // finer than a date of the language holds, so that no row falls between two pages
    .select(sql<string>`made_at::text`.as('made'))
    .where('removed_at', 'is', null)
    // one's own first, the newest in front
    .orderBy('demo')
    .orderBy('made_at', 'desc')
    .orderBy('id', 'desc')
    .limit(page.limit + 1)
  if (page.after) {
    const [demo, made, id] = page.after
    asked = asked.where(
      sql<boolean>`(not demo, made_at, id) < (${demo !== 'true'}::boolean, ${made}::timestamptz, ${id}::uuid)`,
    )
  }
  const found = await asked.execute()
  const scenes = await scenesOf(
    db,
    found.map(({ id }) => id),
  )
  return pageOf(
    found,
    page,
    ({ demo, made, id }) => [String(demo), made, id],
    (rows) => rows.map(({ made: _, ...shoot }) => ({ ...shoot, scenes: scenes.get(shoot.id) ?? [] })),
  )
}

/** The scenes of some shoots, in order. */
async function scenesOf(db: Database, shoots: readonly string[]): Promise<Map<string, Shoot['scenes']>> {
  const byShoot = new Map<string, Shoot['scenes']>()
  if (shoots.length === 0) return byShoot
  const scenes = await db
    .selectFrom('scenes')
    .select(['id', 'shoot_id', 'name', 'revision'])
    .where('shoot_id', 'in', shoots)
    .where('removed_at', 'is', null)
    .orderBy('position')
    .orderBy('changed_at')
    .execute()
  for (const { shoot_id, id, name, revision } of scenes)
    byShoot.set(shoot_id, [...(byShoot.get(shoot_id) ?? []), { id, name, revision }])
  return byShoot
}

/** Creates a shoot, or changes its details. */
export const putShoot = (
  db: Database,
  id: string,
  { baseRevision, content }: { baseRevision: number; content: ShootFacts },
): Promise<{ revision: number }> =>
  db.transaction().execute(async (transaction) => {
    const { name, date, place } = content
    if (baseRevision === 0) {
      const made = await transaction
        .insertInto('shoots')
        .values({ id, name, date, place })
        .onConflict((clash) => clash.column('id').doNothing())
        .returning('revision')
        .executeTakeFirst()
      if (made) return made
    }
    const row = await transaction
      .selectFrom('shoots')
      .select(['name', dayOf, 'place', 'revision'])
      .where('id', '=', id)
      .forUpdate()
      .executeTakeFirst()
    const now = row && {
      revision: row.revision,
      content: { name: row.name, date: row.date, place: row.place },
      removed: false,
    }
    return putDocument({
      name,
      now,
      baseRevision,
      content,
      same: sameContent,
      write: (revision) =>
        transaction.updateTable('shoots').set({ name, date, place, revision }).where('id', '=', id).execute(),
    })
  })

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

/** A scene can be moved only into an existing shoot. */
export async function refuseWithoutShoot(db: Database, id: string): Promise<void> {
  const found = await db.selectFrom('shoots').select('id').where('id', '=', id).executeTakeFirst()
  if (!found) throw notFound('This shoot')
}
