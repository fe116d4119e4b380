import { z } from 'zod'
import { formatVersion } from './format-version'
import { FigurePlace, LearntValue } from './gear'
import { Id, Name, SchemaLine, text } from './text'

/** A simulated device: a thing of the shelf with true figures that its sheet does not tell. */
export const StandIn = z.strictObject({
  id: Id,
  name: Name,
  gear: Id.describe('the thing of the shelf that it stands for'),
  holds: text(400).describe('what is otherwise than its sheet says, for who checks what is found'),
  truths: z
    .array(z.strictObject({ places: z.array(FigurePlace).min(1).max(64), value: LearntValue }))
    .max(100)
    .default([]),
  crossed: z
    .array(z.tuple([Id, Id]))
    .max(16)
    .default([])
    .describe('pairs of strips whose outputs are exchanged'),
})
export type StandIn = z.infer<typeof StandIn>

/** Stand-in devices as a file. */
export const StandInFile = z.strictObject({
  $schema: SchemaLine,
  format: z.literal('iron-hush/stand-ins'),
  version: z.literal(formatVersion),
  devices: z.array(StandIn).max(100),
})
export type StandInFile = z.infer<typeof StandInFile>
