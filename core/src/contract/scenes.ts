import { z } from 'zod'
import { Edit } from '../edits'
import { Patch, Uuid } from '../model'
import { NewRevision, Revision } from './document'
import { request } from './request'

/** A scene as the server keeps it. */
export const SceneDocument = z.strictObject({ id: Uuid, shoot: Uuid, revision: Revision, patch: Patch })
export type SceneDocument = z.infer<typeof SceneDocument>

/** Edits on their way to the server. The id makes a retry harmless. */
export const SceneChange = z.strictObject({
  id: Uuid,
  baseRevision: Revision,
  edits: z.array(Edit).min(1).max(200),
})
export type SceneChange = z.infer<typeof SceneChange>

export const readScene = request({
  method: 'get',
  path: '/api/scenes/:id',
  does: 'A scene with its brief, chain and settings.',
  answer: SceneDocument,
  problems: { 404: 'No such scene.' },
})

export const editScene = request({
  method: 'post',
  path: '/api/scenes/:id/edits',
  does: 'Changes a scene. The same id sent again changes nothing and gets the same answer.',
  body: SceneChange,
  answer: NewRevision,
  problems: {
    404: 'No such scene.',
    409: 'The scene moved on; both versions are in the answer.',
    422: 'The change is not sound.',
  },
})
