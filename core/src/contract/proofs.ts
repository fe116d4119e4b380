import { z } from 'zod'
import { ProofRecord } from '../model'
import { AtRevision, change, Gone, NewRevision, stored } from './document'
import { request } from './request'

export const listProofs = request({
  method: 'get',
  path: '/api/scenes/:id/proofs',
  does: 'What was measured for a scene, newest first. The clips themselves stay with the user.',
  paged: { limit: 100 },
  answer: z.array(stored(ProofRecord)),
})

export const putProof = request({
  method: 'put',
  path: '/api/proofs/:id',
  does: 'Stores a measurement with a scene. Sending what is already stored changes nothing.',
  body: change(ProofRecord),
  answer: NewRevision,
  problems: { 404: 'No such scene.', 409: 'It was changed elsewhere.' },
})

export const deleteProof = request({
  method: 'delete',
  path: '/api/proofs/:id',
  does: 'Deletes a measurement. It can be restored with the revision in the answer.',
  query: AtRevision,
  answer: Gone,
  problems: { 409: 'It was changed elsewhere.' },
})
