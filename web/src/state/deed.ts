import { z } from 'zod'
import { Edit } from '@iron-hush/core/edits'
import { Uuid } from '@iron-hush/core/model'

/** Requests that change shoots and scenes themselves. */
export const ShootRequest = z.enum([
  'putShoot',
  'deleteShoot',
  'restoreShoot',
  'createScene',
  'deleteScene',
  'restoreScene',
  'moveScene',
  'renameScene',
])

/** One thing that undo or redo does, as data: so it can be stored, and outlives the page. */
export const Act = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('edit'), edits: z.array(Edit).min(1) }),
  z.strictObject({
    do: z.literal('put'),
    kind: z.enum(['take', 'proof', 'gear']),
    content: z.unknown().describe('checked by the schema of its kind'),
  }),
  z.strictObject({ do: z.literal('drop'), kind: z.enum(['take', 'proof', 'gear']), id: z.string() }),
  z.strictObject({
    do: z.literal('ask'),
    request: ShootRequest,
    id: Uuid,
    body: z.unknown().optional().describe('checked by the contract; left out where the request has none'),
  }),
])
export type Act = z.infer<typeof Act>
export const editActs = (edits: Edit[]): Act[] => (edits.length ? [{ do: 'edit', edits }] : [])

/** Something that was done and can be taken back. */
export const Deed = z.strictObject({
  name: z.string(),
  /** Deeds of one hand movement: the same key within a second counts as one. */
  merge: z.string().optional(),
  undo: z.array(Act),
  redo: z.array(Act),
})
export type Deed = z.infer<typeof Deed>

/** Done and undone actions of a place, latest last. */
export const DeedLine = z.strictObject({ past: z.array(Deed), future: z.array(Deed) })
export type DeedLine = z.infer<typeof DeedLine>
