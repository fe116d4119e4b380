import { z } from 'zod'
import { Gear, Id, Name, Note, Uuid } from '../model'
import { AtRevision, change, Gone, NewRevision, stored } from './document'
import { request } from './request'

/** A scene that a thing is used in, and as what: a role holds two names at most. */
export const GearUse = z.strictObject({ id: Uuid, scene: Name, as: z.array(Note) })
export type GearUse = z.infer<typeof GearUse>

/** Each scene, with what the thing is in it. */
export const usesWords = (uses: readonly GearUse[]): string =>
  uses.map(({ scene, as }) => `${scene} (${as.join(', ')})`).join('; ')

export const listGear = request({
  method: 'get',
  path: '/api/gear',
  does: 'The shelf, by kind and name.',
  paged: { limit: 200 },
  answer: z.array(stored(Gear)),
})

export const listSceneGear = request({
  method: 'get',
  path: '/api/scenes/:id/gear',
  does: 'Of the shelf, what a scene uses: enough to work with it while the rest is read.',
  answer: z.array(stored(Gear)),
  problems: { 404: 'No such scene.' },
})

export const putGear = request({
  method: 'put',
  path: '/api/gear/:id',
  ids: Id,
  does: 'Changes a thing on the shelf, or adds a new one. Sending what is already stored changes nothing.',
  body: change(Gear),
  answer: NewRevision,
  problems: { 404: 'No such thing.', 409: 'It was changed elsewhere.', 422: 'It is not sound.' },
})

export const importGear = request({
  method: 'post',
  path: '/api/gear/import',
  does: 'Adds or changes several things on the shelf: all of them or none.',
  body: z.strictObject({ things: z.array(change(Gear)).min(1).max(10_000) }),
  answer: z.array(NewRevision).describe('in the order of the request'),
  problems: {
    409: 'One of them was changed elsewhere; none was stored.',
    422: 'One of them is not sound; none was stored.',
  },
  largestBodyMb: 48,
})

export const listGearUses = request({
  method: 'get',
  path: '/api/gear/:id/uses',
  ids: Id,
  does: 'The scenes that use a thing.',
  answer: z.array(GearUse),
})

export const deleteGear = request({
  method: 'delete',
  path: '/api/gear/:id',
  ids: Id,
  does: 'Deletes a thing from the shelf. A thing that a scene uses is not deleted; the answer names the scenes.',
  query: AtRevision,
  answer: Gone,
  problems: { 409: 'It was changed elsewhere.', 422: 'A scene uses it.' },
})
