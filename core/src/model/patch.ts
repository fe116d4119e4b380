import { z } from 'zod'
import { Brief, Cover } from './brief'
import { Position } from './control'
import { formatVersion } from './format-version'
import { Gear } from './gear'
import { LineUpReading } from './line-up'
import { Id, Name, Note, SchemaLine } from './text'

const Settings = z.record(Id, Position)

/** A part of a chain as it is set: a box or a piece of a link. */
export const SetPart = z.strictObject({ id: Id, gear: Id, settings: Settings })
export type SetPart = z.infer<typeof SetPart>

/** A piece of gear standing in the chain, with its controls as they are set. */
export const Box = z.strictObject({
  id: Id,
  gear: Id,
  name: Name.optional(),
  place: Id.optional().describe('for a microphone: its place in the brief'),
  cover: Cover.optional().describe('for a microphone: what it wears against wind'),
  source: Id.optional().describe('for a desk: the line source of the brief that it feeds'),
  settings: Settings.default({}),
  locked: z.array(Id).max(64).default([]).describe('controls that Balance leaves alone'),
})
export type Box = z.infer<typeof Box>

const LinkEnd = z.strictObject({ box: Id, port: Id })

/** A further end of a splitter that lies in another link. End 2 is the first beyond its two own. */
const Branch = z.strictObject({ piece: Id, end: z.number().int().min(2).max(4) })

/** One output to one input, through any number of cables, adapters and pads. */
export const Link = z.strictObject({
  id: Id,
  from: LinkEnd,
  to: LinkEnd,
  pieces: z
    .array(
      z.strictObject({
        id: Id,
        gear: Id,
        settings: Settings.default({}),
        locked: z.array(Id).max(8).default([]),
        reversed: z.boolean().optional().describe('its other end is towards the source'),
      }),
    )
    .max(8)
    .default([]),
  branch: Branch.optional().describe('it does not begin at the output itself but at a splitter on the way'),
  joins: Branch.optional().describe(
    'it does not end in the input itself but in a further end of a lead that another link has plugged in there',
  ),
})
export type Link = z.infer<typeof Link>
export type Piece = Link['pieces'][number]

export const PeakTarget = z.enum([
  'cautious',
  'usual',
  'a little over',
  'full',
  'hot',
  'under the mark',
  'float',
])
export type PeakTarget = z.infer<typeof PeakTarget>

export const Counting = z.enum(['camera only', 'recorder first', 'both good'])
export type Counting = z.infer<typeof Counting>

/** How the levels are to be set. */
export const Plan = z.strictObject({
  peakTarget: PeakTarget.default('usual').describe(
    'where the loudest peaks of a recording should lie: cautious -20 to -17 dBFS, usual -15 to -12, a little over -12 to -9, full -10 to -6, hot -10 to 0; under the mark: up to 3 dB under the first mark of its own meter over the lowest; float: anywhere under the analogue ceilings on floating-point tracks, and where one counts, on the fixed ones beside it too',
  ),
  counts: Counting.default('both good').describe(
    'which recording counts: camera only, those of cameras; recorder first, those of anything else; both good, all. What does not count keeps its ceilings and loses its window',
  ),
  marginDb: z.number().min(0).max(30).default(3).describe('least headroom under every ceiling'),
  backupsMayClip: z
    .boolean()
    .default(false)
    .describe('let go of the ceilings of recordings that do not count'),
})
export type Plan = z.infer<typeof Plan>

/** One scene: its brief, its chain and its settings. The open format of the application. */
export const Patch = z.strictObject({
  $schema: SchemaLine,
  format: z.literal('iron-hush/patch'),
  version: z.literal(formatVersion),
  name: Name,
  note: Note.default(''),
  brief: Brief,
  gear: z.array(Gear).max(200).default([]).describe('gear of its own, so that the file stands alone'),
  boxes: z.array(Box).max(40),
  links: z.array(Link).max(80),
  plan: Plan.prefault({}),
  lineUp: z
    .array(LineUpReading)
    .max(1000)
    .default([])
    .describe('steps of the line-up that were done, with what was read'),
})
export type Patch = z.infer<typeof Patch>
export type PatchInput = z.input<typeof Patch>
