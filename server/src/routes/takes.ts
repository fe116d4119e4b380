import { z } from 'zod'
import { parse, Refusal, Take } from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, notFound } from '../problem'
import { route } from '../route'

const StoredTake = z.strictObject({ revision: z.number().int().min(1), take: Take })
type StoredTake = z.infer<typeof StoredTake>
const TakeChange = z.strictObject({
  baseRevision: z.number().int().min(0).describe('0 for a new take'),
  take: Take,
})
const Gone = z.strictObject({ gone: z.boolean() })

export const takeRoutes = [
  route({
    method: 'get',
    path: '/api/scenes/:id/takes',
    does: 'The takes of a scene with their marks.',
    answer: z.array(StoredTake),
    handle: ({ db, params }) => takesOf(db, 'scene_id', params.id!),
  }),
  route({
    method: 'put',
    path: '/api/takes/:id',
    does: 'Stores a take with its marks, whole. Sending what is already stored changes nothing.',
    body: TakeChange,
    answer: StoredTake,
    problems: { 404: 'No such scene.', 409: 'It was changed elsewhere.' },
    handle: async ({ db, params, body: { baseRevision, take } }) => {
      if (take.id !== params.id) throw new Refusal('This take was refused: its id and its address differ.')
      return db.transaction().execute(async (transaction) => {
        if (
          !(await transaction
            .selectFrom('scenes')
            .select('id')
            .where('id', '=', take.scene)
            .executeTakeFirst())
        )
          throw notFound('The scene of this take')
        await transaction
          .selectFrom('takes')
          .select('id')
          .where('id', '=', take.id)
          .forUpdate()
          .executeTakeFirst()
        const [now] = await takesOf(transaction, 'id', take.id)
        if (now && same(now.take, take)) return now
        if ((now?.revision ?? 0) !== baseRevision) throw conflict(`Take ${take.number}`, now ?? null, take)
        const revision = baseRevision + 1
        const row = {
          id: take.id,
          scene_id: take.scene,
          number: take.number,
          started_at: take.startedAt,
          ended_at: take.endedAt,
          verdict: take.verdict,
          note: take.note,
          revision,
        }
        await transaction
          .insertInto('takes')
          .values(row)
          .onConflict((clash) => clash.column('id').doUpdateSet(row))
          .execute()
        await transaction.deleteFrom('marks').where('take_id', '=', take.id).execute()
        if (take.marks.length)
          await transaction
            .insertInto('marks')
            .values(take.marks.map(({ atS, ...mark }) => ({ ...mark, at_s: atS, take_id: take.id })))
            .execute()
        return { revision, take }
      })
    },
  }),
  route({
    method: 'delete',
    path: '/api/takes/:id',
    does: 'Takes back a take.',
    answer: Gone,
    handle: async ({ db, params }) => {
      const { numDeletedRows } = await db.deleteFrom('takes').where('id', '=', params.id!).executeTakeFirst()
      return { gone: numDeletedRows > 0 }
    },
  }),
]

/** Equal whatever the order of marks. */
const same = (one: Take, other: Take): boolean =>
  JSON.stringify(inOrder(one)) === JSON.stringify(inOrder(other))

const inOrder = ({ marks, ...take }: Take) => ({
  ...Object.fromEntries(Object.entries(take).sort(([one], [other]) => one.localeCompare(other))),
  marks: marks.map(({ id, kind, atS, channel, note }) => [id, kind, atS, channel, note].join('|')).sort(),
})

async function takesOf(db: Database, column: 'scene_id' | 'id', id: string): Promise<StoredTake[]> {
  const takes = await db
    .selectFrom('takes')
    .selectAll()
    .where(column, '=', id)
    .orderBy('number')
    .orderBy('started_at')
    .execute()
  if (takes.length === 0) return []
  const marks = await db
    .selectFrom('marks')
    .selectAll()
    .where(
      'take_id',
      'in',
      takes.map((take) => take.id),
    )
    .orderBy('at_s')
    .execute()
  return takes.map((row) =>
    parse(
      StoredTake,
      {
        revision: row.revision,
        take: {
          id: row.id,
          scene: row.scene_id,
          number: row.number,
          startedAt: row.started_at.toISOString(),
          endedAt: row.ended_at?.toISOString() ?? null,
          verdict: row.verdict,
          note: row.note,
          marks: marks
            .filter(({ take_id }) => take_id === row.id)
            .map(({ id: mark, kind, at_s, channel, note }) => ({ id: mark, kind, atS: at_s, channel, note })),
        },
      },
      'The stored take',
    ),
  )
}
