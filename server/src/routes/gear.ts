import { z } from 'zod'
import {
  checkGear,
  Gear,
  GearDocument,
  GearUse,
  parse,
  Patch,
  Refusal,
  type Shelf,
  shelfOf,
} from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, notFound } from '../problem'
import { route } from '../route'

const GearChange = z.strictObject({
  baseRevision: z.number().int().min(0).describe('0: it is new'),
  gear: Gear,
})
/** Things together: all of them are stored, or none. */
const GearImport = z.strictObject({ gear: z.array(Gear).min(1).max(10_000) })

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
    does: 'Changes a thing on the shelf, or puts a new one there. Sending what is already stored changes nothing.',
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
        if (!row && baseRevision === 0) return put(transaction, gear)
        if (!row) throw notFound('This thing')
        const now = documentOf(row)
        if (JSON.stringify(now.gear) === JSON.stringify(gear)) return now
        if (row.revision !== baseRevision) throw conflict(gear.name, now, gear)
        return put(transaction, gear, row.revision)
      })
    },
  }),
  route({
    method: 'post',
    path: '/api/gear/import',
    does: 'Puts several things on the shelf, or changes them, all together or not at all.',
    body: GearImport,
    answer: z.array(GearDocument),
    problems: { 422: 'One of them is not sound; none was stored.' },
    handle: async ({ db, body: { gear } }) => {
      for (const thing of gear) {
        const [problem] = checkGear(thing)
        if (problem) throw new Refusal(`The import was refused, and nothing was stored: ${problem}`)
      }
      return db.transaction().execute(async (transaction) => {
        const rows = await transaction.selectFrom('gear').select(['id', 'revision']).forUpdate().execute()
        const revisions = new Map(rows.map(({ id, revision }) => [id, revision]))
        const stored: GearDocument[] = []
        for (const thing of gear) stored.push(await put(transaction, thing, revisions.get(thing.id)))
        return stored
      })
    },
  }),
  route({
    method: 'get',
    path: '/api/gear/:id/uses',
    does: 'The scenes that use a thing.',
    answer: z.array(GearUse),
    handle: ({ db, params }) => usesOf(db, params.id!),
  }),
  route({
    method: 'delete',
    path: '/api/gear/:id',
    does: 'Takes a thing off the shelf. What a scene uses stays; the answer names the scenes.',
    answer: z.strictObject({ id: z.string() }),
    problems: { 422: 'A scene uses it.' },
    handle: async ({ db, params }) => {
      const id = params.id!
      const uses = await usesOf(db, id)
      if (uses.length) {
        const list = uses.map(({ scene, as }) => `${scene} (as ${as.join(', ')})`).join('; ')
        throw new Refusal(`It was not taken off the shelf: it is used in ${list}. Swap it there first.`)
      }
      await db.deleteFrom('gear').where('id', '=', id).execute()
      return { id }
    },
  }),
]

/** Stores a thing over the revision that is there, or as new. */
async function put(db: Database, gear: Gear, before = 0): Promise<GearDocument> {
  const { id, name, maker, kind, owned } = gear
  const revision = before + 1
  const row = { name, maker, kind, owned, revision, document: JSON.stringify(gear) }
  await (before
    ? db.updateTable('gear').set(row).where('id', '=', id).execute()
    : db
        .insertInto('gear')
        .values({ id, ...row })
        .execute())
  return { revision, gear }
}

/** Scenes in whose chain a thing stands; one that a scene carries itself does not need the shelf. */
async function usesOf(db: Database, id: string): Promise<GearUse[]> {
  const rows = await db.selectFrom('scenes').select(['id', 'name', 'patch']).orderBy('position').execute()
  return rows.flatMap((row) => {
    const patch = parse(Patch, row.patch, 'The stored scene')
    if (patch.gear.some((own) => own.id === id)) return []
    const parts = [...patch.boxes, ...patch.links.flatMap(({ through }) => through)]
    const as = parts.filter(({ gear }) => gear === id).map((part) => ('name' in part && part.name) || part.id)
    return as.length ? [{ id: row.id, scene: row.name, as }] : []
  })
}

export async function shelfOfDatabase(db: Database): Promise<Shelf> {
  const rows = await db.selectFrom('gear').select(['revision', 'document']).execute()
  return shelfOf(rows.map((row) => documentOf(row).gear))
}

const documentOf = (row: { revision: number; document: unknown }): GearDocument =>
  parse(GearDocument, { revision: row.revision, gear: row.document }, 'The stored thing')
