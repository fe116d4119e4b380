import { z } from 'zod'
import { Edit } from './edit'
import { Gear } from './gear'
import { Patch } from './patch'
import { Name, Uuid } from './text'

const revision = z.number().int().min(1)

/** A scene as the server keeps it. */
export const SceneDocument = z.strictObject({ id: Uuid, shoot: Uuid, revision, patch: Patch })
export type SceneDocument = z.infer<typeof SceneDocument>

export const SceneSummary = z.strictObject({ id: Uuid, name: Name, revision })

export const Shoot = z.strictObject({ id: Uuid, name: Name, scenes: z.array(SceneSummary) })
export type Shoot = z.infer<typeof Shoot>

/** A change on its way to the server. The id makes a retry harmless. */
export const EditsRequest = z.strictObject({
  id: Uuid,
  baseRevision: revision,
  edits: z.array(Edit).min(1).max(200),
})
export type EditsRequest = z.infer<typeof EditsRequest>

export const GearDocument = z.strictObject({ revision, gear: Gear })
export type GearDocument = z.infer<typeof GearDocument>

/** A scene that a thing is used in, and as what. */
export const GearUse = z.strictObject({ id: Uuid, scene: Name, as: z.array(Name) })
export type GearUse = z.infer<typeof GearUse>

/** RFC 9457 problem; a conflict carries both versions. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  theirs: z.unknown().optional(),
  yours: z.unknown().optional(),
})
export type Problem = z.infer<typeof Problem>
