import { z } from 'zod'
import { Take } from '../model'
import { change, Gone, NewRevision, stored } from './document'
import { request } from './request'

export const listTakes = request({
  method: 'get',
  path: '/api/scenes/:id/takes',
  does: 'The takes of a scene with their marks.',
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
  does: 'Takes back a take.',
  answer: Gone,
})
