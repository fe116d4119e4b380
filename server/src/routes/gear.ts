import { z } from 'zod'
import { checkGear, Gear, GearDocument, parse, Refusal, type Shelf, shelfOf } from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, notFound } from '../problem'
import { route } from '../route'

const GearChange = z.strictObject({ baseRevision: z.number().int().min(1), gear: Gear })

export const gearRoutes = [
  route({
    method: 'get',
    path: '/api/gear',
    does: 'The shelf.',
    answer: z.array(GearDocument),
    handle: async ({ db }) => {
      const rows = await db
        .selectFrom('gear')
        .select(['revision', 'document'])
        .orderBy('kind')
        .orderBy('name')
        .execute()
      return rows.map(documentOf)
    },
  }),
  route({
    method: 'put',
    path: '/api/gear/:id',
    does: 'Changes a thing on the shelf. Sending what is already stored changes nothing.',
    body: GearChange,
    answer: GearDocument,
    problems: { 404: 'No such thing.', 409: 'It was changed elsewhere.', 422: 'It is not sound.' },
    handle: async ({ db, params, body: { baseRevision, gear } }) => {
      const [problem] = checkGear(gear)
      if (problem) throw new Refusal(`This change was refused: ${problem}`)
      if (gear.id !== params.id)
        throw new Refusal('This change was refused: the id of a thing cannot change.')
      return db.transaction().execute(async (transaction) => {
        const row = await transaction
          .selectFrom('gear')
          .select(['revision', 'document'])
          .where('id', '=', gear.id)
          .forUpdate()
          .executeTakeFirst()
        if (!row) throw notFound('This thing')
        const now = documentOf(row)
        if (JSON.stringify(now.gear) === JSON.stringify(gear)) return now
        if (row.revision !== baseRevision) throw conflict(gear.name, now, gear)
        const revision = row.revision + 1
        const { name, maker, kind, owned } = gear
        await transaction
          .updateTable('gear')
          .set({ name, maker, kind, owned, revision, document: JSON.stringify(gear) })
          .where('id', '=', gear.id)
          .execute()
        return { revision, gear }
      })
    },
  }),
]

export async function shelfOfDatabase(db: Database): Promise<Shelf> {
  const rows = await db.selectFrom('gear').select(['revision', 'document']).execute()
  return shelfOf(rows.map((row) => documentOf(row).gear))
}

const documentOf = (row: { revision: number; document: unknown }): GearDocument =>
  parse(GearDocument, { revision: row.revision, gear: row.document }, 'The stored thing')
