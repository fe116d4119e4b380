import { usedOf } from './lookup'
import { z } from 'zod'
import { formatVersion } from './format-version'
import type { Shelf } from './gear'
import { Patch } from './patch'
import { Name, SchemaLine, line, Day } from './text'

/** A shoot as a file: what is said of it, and its scenes, each with the gear that it uses. */
export const ShootFile = z.strictObject({
  $schema: SchemaLine,
  format: z.literal('iron-hush/shoot'),
  version: z.literal(formatVersion),
  name: Name,
  date: Day.nullable().default(null),
  place: line(120).default(''),
  scenes: z.array(Patch).max(200),
})
export type ShootFile = z.infer<typeof ShootFile>

/** A patch with all the gear that it uses, so that it stands alone. */
export function standalone(patch: Patch, shelf: Shelf): Patch {
  const own = new Set(patch.gear.map(({ id }) => id))
  const added = [...usedOf(patch, shelf).values()].filter(({ id }) => !own.has(id))
  return { ...patch, gear: [...patch.gear, ...added] }
}

/** A patch without the gear that lies on the shelf just as it is: what a file brought along and nobody needs twice. */
export const withoutKnownGear = (patch: Patch, shelf: Shelf): Patch => ({
  ...patch,
  gear: patch.gear.filter((gear) => JSON.stringify(gear) !== JSON.stringify(shelf.get(gear.id))),
})
