import { z } from 'zod'
import { Take } from '../model'
import { AtRevision, change, Gone, NewRevision, stored } from './document'
import { request } from './request'

export const listTakes = request({
  method: 'get',
  path: '/api/scenes/:id/takes',
  does: 'The takes of a scene with their marks.',
  paged: { limit: 200 },
  answer: z.array(stored(Take)),
})

export const putTake = request({
  method: 'put',
  path: '/api/takes/:id',
  does: 'Stores a take with its marks, whole. Sending what is already stored changes nothing.',
  body: change(Take),
  answer: NewRevision,
  problems: { 404: 'No such scene.', 409: 'It was changed elsewhere.' },
})

export const deleteTake = request({
  method: 'delete',
  path: '/api/takes/:id',
  does: 'Deletes a take. It can be restored with the revision in the answer.',
  query: AtRevision,
  answer: Gone,
  problems: { 409: 'It was changed elsewhere.' },
})
