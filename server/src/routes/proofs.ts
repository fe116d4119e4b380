import { z } from 'zod'
import { parse, ProofRecord, Refusal } from '@iron-hush/core/model'
import { notFound } from '../problem'
import { route } from '../route'

export const proofRoutes = [
  route({
    method: 'get',
    path: '/api/scenes/:id/proofs',
    does: 'What was measured for a scene, newest first. The clips themselves stay with the user.',
    answer: z.array(ProofRecord),
    handle: async ({ db, params }) => {
      const rows = await db
        .selectFrom('proofs')
        .selectAll()
        .where('scene_id', '=', params.id!)
        .orderBy('measured_at', 'desc')
        .limit(500)
        .execute()
      return rows.map((row) =>
        parse(
          ProofRecord,
          {
            id: row.id,
            scene: row.scene_id,
            recording: row.recording,
            measuredAt: row.measured_at.toISOString(),
            measurement: row.measurement,
          },
          'The stored measurement',
        ),
      )
    },
  }),
  route({
    method: 'put',
    path: '/api/proofs/:id',
    does: 'Keeps a measurement with a scene. Sent again, it replaces itself.',
    body: ProofRecord,
    answer: ProofRecord,
    problems: { 404: 'No such scene.' },
    handle: async ({ db, params, body }) => {
      if (body.id !== params.id)
        throw new Refusal('This measurement was refused: its id and its address differ.')
      if (!(await db.selectFrom('scenes').select('id').where('id', '=', body.scene).executeTakeFirst()))
        throw notFound('The scene of this clip')
      const row = {
        id: body.id,
        scene_id: body.scene,
        clip: body.measurement.clip,
        recording: body.recording,
        measured_at: body.measuredAt,
        measurement: JSON.stringify(body.measurement),
      }
      await db
        .insertInto('proofs')
        .values(row)
        .onConflict((clash) => clash.column('id').doUpdateSet(row))
        .execute()
      return body
    },
  }),
  route({
    method: 'delete',
    path: '/api/proofs/:id',
    does: 'Forgets a measurement.',
    answer: z.strictObject({ gone: z.boolean() }),
    handle: async ({ db, params }) => {
      const { numDeletedRows } = await db.deleteFrom('proofs').where('id', '=', params.id!).executeTakeFirst()
      return { gone: numDeletedRows > 0 }
    },
  }),
]
