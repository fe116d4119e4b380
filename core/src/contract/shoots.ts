import { z } from 'zod'
import { Name, Patch, Uuid, line, Day } from '../model'
import { change, NewRevision, Revision } from './document'
import { request } from './request'

const SceneSummary = z.strictObject({ id: Uuid, name: Name, revision: Revision })
export type SceneSummary = z.infer<typeof SceneSummary>

/** Name, date and place of a shoot. */
export const ShootFacts = z.strictObject({
  name: Name,
  date: Day.nullable().default(null).describe('the day of the shoot; null: not known yet'),
  place: line(120).default('').describe('in words'),
})
export type ShootFacts = z.infer<typeof ShootFacts>

export const Shoot = z.strictObject({
  id: Uuid,
  revision: Revision.describe('of what is said of it; its scenes have their own'),
  ...ShootFacts.shape,
  demo: z.boolean().default(false).describe('it came with the application'),
  scenes: z.array(SceneSummary),
})
export type Shoot = z.infer<typeof Shoot>

/** Whether something changed: false where it was so already. */
const Done = z.strictObject({ done: z.boolean() })

export const listShoots = request({
  method: 'get',
  path: '/api/shoots',
  does: 'Shoots with their scenes, one\u2019s own first, the newest first among them.',
  paged: { limit: 50 },
  answer: z.array(Shoot),
})

export const putShoot = request({
  method: 'put',
  path: '/api/shoots/:id',
  does: 'Creates a shoot, or changes its details. Sending what is already stored changes nothing.',
  body: change(ShootFacts),
  answer: NewRevision,
  problems: { 409: 'It was changed elsewhere.', 422: 'It is not sound.' },
})

export const deleteShoot = request({
  method: 'delete',
  path: '/api/shoots/:id',
  does: 'Deletes a shoot with its scenes. It can be restored.',
  answer: Done,
})

export const restoreShoot = request({
  method: 'post',
  path: '/api/shoots/:id/restore',
  does: 'Brings a deleted shoot back, with the scenes that it had then.',
  answer: Done,
  problems: { 404: 'No such shoot.' },
})

export const createScene = request({
  method: 'put',
  path: '/api/scenes/:id',
  does: 'Creates a scene at the end of a shoot. The same id sent again changes nothing.',
  body: z.strictObject({ shoot: Uuid, patch: Patch }),
  answer: NewRevision,
  problems: { 404: 'No such shoot.', 422: 'The patch cannot be computed.' },
})

export const deleteScene = request({
  method: 'delete',
  path: '/api/scenes/:id',
  does: 'Deletes a scene with its takes and measurements. It can be restored.',
  answer: Done,
})

export const restoreScene = request({
  method: 'post',
  path: '/api/scenes/:id/restore',
  does: 'Brings a deleted scene back to where it was.',
  answer: Done,
  problems: { 404: 'No such scene.' },
})

export const moveScene = request({
  method: 'put',
  path: '/api/scenes/:id/place',
  does: 'Moves a scene to a place in a shoot, its own or another.',
  body: z.strictObject({ shoot: Uuid, position: z.number().int().min(0).max(1000) }),
  answer: Done,
  problems: { 404: 'No such scene or shoot.' },
})

export const restoreDemo = request({
  method: 'post',
  path: '/api/demo',
  does: 'Brings the demo back as it shipped, as a shoot of its own.',
  answer: Done,
})
