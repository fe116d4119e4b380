import { z } from 'zod'
import { Name, Uuid } from '../model'
import { Revision } from './document'
import { request } from './request'

const SceneSummary = z.strictObject({ id: Uuid, name: Name, revision: Revision })

export const Shoot = z.strictObject({ id: Uuid, name: Name, scenes: z.array(SceneSummary) })
export type Shoot = z.infer<typeof Shoot>

export const listShoots = request({
  method: 'get',
  path: '/api/shoots',
  does: 'All shoots with their scenes, in order.',
  answer: z.array(Shoot),
})
