import { z } from 'zod'
import { Uuid } from '../model'
import { request } from './request'

export const readLineage = request({
  method: 'get',
  path: '/api/lineage',
  does: 'Identifies the data. It changes when a backup is restored.',
  answer: z.strictObject({ id: Uuid }),
})
