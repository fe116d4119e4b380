import { z } from 'zod'
import { Id, Uuid } from '../model'

/** Something that was stored, deleted or restored, on whichever device. */
export const Change = z.strictObject({
  kind: z.enum(['scene', 'take', 'proof', 'gear', 'shoot']),
  id: z.union([Uuid, Id]),
  /** The scene that a take or a measurement belongs to. */
  scene: Uuid.optional(),
  revision: z.number().int().optional(),
})
export type Change = z.infer<typeof Change>

/**
 * Where changes are published as they happen: server-sent events, each with a `Change` as JSON. The event `missed` says that
 * some may not have been sent: read again what is on show.
 */
export const changesPath = '/api/changes'
