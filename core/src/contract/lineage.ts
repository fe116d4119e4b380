import { z } from 'zod'
import { Uuid } from '../model'
import { request } from './request'

export const readLineage = request({
  method: 'get',
  path: '/api/lineage',
  does: 'Which life of the data this is: it is another one after a backup was restored.',
  answer: z.strictObject({ id: Uuid }),
})
