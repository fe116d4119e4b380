import { z } from 'zod'
import {
  applyEdits,
  EditsRequest,
  parse,
  Patch,
  SceneDocument,
  type Shelf,
  Shoot,
} from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, notFound } from '../problem'
import { route } from '../route'
import { shelfOfDatabase } from './gear'

export const sceneRoutes = [
  route({
    method: 'get',
    path: '/api/shoots',
    does: 'All shoots with their scenes, in order.',
    answer: z.array(Shoot),
    handle: async ({ db }) => {
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
    },
  }),
  route({
    method: 'get',
    path: '/api/scenes/:id',
    does: 'A scene with its brief, chain and settings.',
    answer: SceneDocument,
    problems: { 404: 'No such scene.' },
    handle: async ({ db, params }) => {
      const row = await db.selectFrom('scenes').selectAll().where('id', '=', params.id!).executeTakeFirst()
      if (!row) throw notFound('This scene')
      return documentOf(row)
    },
  }),
  route({
    method: 'post',
    path: '/api/scenes/:id/edits',
    does: 'Changes a scene. The same id sent again changes nothing and gets the same answer.',
    body: EditsRequest,
    answer: SceneDocument,
    problems: {
      404: 'No such scene.',
      409: 'The scene moved on; both versions are in the answer.',
      422: 'The change is not sound.',
    },
    handle: ({ db, params, body }) => change(db, params.id!, body),
  }),
]

async function change(db: Database, id: string, request: EditsRequest): Promise<SceneDocument> {
  return db.transaction().execute(async (transaction) => {
    const row = await transaction
      .selectFrom('scenes')
      .selectAll()
      .where('id', '=', id)
      .forUpdate()
      .executeTakeFirst()
    if (!row) throw notFound('This scene')
    const revisions = transaction
      .selectFrom('scene_revisions')
      .select(['revision', 'patch'])
      .where('scene_id', '=', id)
    const before = await revisions.where('change_id', '=', request.id).executeTakeFirst()
    if (before) return documentOf({ ...row, ...before })
    const shelf = await shelfOfDatabase(transaction)
    if (row.revision !== request.baseRevision) {
      const base = await revisions.where('revision', '=', request.baseRevision).executeTakeFirst()
      throw conflict('This scene', documentOf(row), base ? yours(base.patch, request, shelf) : null)
    }
    const patch = applyEdits(parse(Patch, row.patch, 'The stored scene'), request.edits, shelf)
    const checked = parse(Patch, patch, 'The changed scene')
    const revision = row.revision + 1
    const text = JSON.stringify(checked)
    await transaction
      .updateTable('scenes')
      .set({ patch: text, revision, name: checked.name, changed_at: new Date() })
      .where('id', '=', id)
      .execute()
    await transaction
      .insertInto('scene_revisions')
      .values({
        scene_id: id,
        revision,
        change_id: request.id,
        edits: JSON.stringify(request.edits),
        patch: text,
      })
      .execute()
    return { id, shoot: row.shoot_id, revision, patch: checked }
  })
}

/** What the sender's version would have been. */
function yours(base: unknown, { edits }: EditsRequest, shelf: Shelf): Patch {
  return applyEdits(parse(Patch, base, 'The stored scene'), edits, shelf)
}

const documentOf = (row: { id: string; shoot_id: string; revision: number; patch: unknown }): SceneDocument =>
  parse(
    SceneDocument,
    { id: row.id, shoot: row.shoot_id, revision: row.revision, patch: row.patch },
    'The stored scene',
  )
