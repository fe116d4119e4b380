import { z } from 'zod'
import { Control } from './control'
import { Ohm } from './figure'
import { Stage } from './stage'
import { Id, Name, Note } from './text'

export const GearKind = z.enum([
  'microphone',
  'radio',
  'preamplifier',
  'mixer',
  'recorder',
  'camera',
  'pad',
  'cable',
  'adapter',
  'headphones',
  'desk',
])
export type GearKind = z.infer<typeof GearKind>

/** A plug or socket by its shape, and the two ways through the air. */
export const Connector = z.enum([
  'xlr-3',
  'mini-3',
  'mini-4',
  'jack-2',
  'jack-3',
  'rca',
  'usb-c',
  'fixed',
  'air',
  'radio',
])
export type Connector = z.infer<typeof Connector>

export const Channel = z.enum(['left', 'right'])
export type Channel = z.infer<typeof Channel>

export const Port = z.strictObject({
  id: Id,
  name: Name,
  way: z.enum(['in', 'out']),
  connector: Connector,
  channels: z.union([z.literal(1), z.literal(2)]).default(1),
  impedanceOhm: Ohm.optional().describe('source impedance of an output, load of an input; left out: ideal'),
  balanced: z.boolean().default(false),
})
export type Port = z.infer<typeof Port>

const PortChannel = z.strictObject({ port: Id, channel: Channel.default('left') })
const BusEnd = z.strictObject({ bus: Id })

/** A row of stages from an input, or from a bus, to outputs and buses. */
export const Strip = z.strictObject({
  id: Id,
  name: Name.optional(),
  from: z.union([PortChannel, BusEnd]),
  stages: z.array(Stage).max(40),
  to: z
    .array(z.union([PortChannel, BusEnd]))
    .max(16)
    .default([]),
})
export type Strip = z.infer<typeof Strip>

/** Resistances of a passive piece, walked from the source: in series with the signal, or across it. */
export const Rung = z.union([
  z.strictObject({ seriesOhm: z.number().min(0).max(10_000_000) }),
  z.strictObject({ shuntOhm: z.number().positive().max(10_000_000) }),
])
export type Rung = z.infer<typeof Rung>

export const Ladder = z.union([
  z.array(Rung).max(8),
  z.strictObject({ control: Id, at: z.record(Id, z.array(Rung).max(8)) }),
])
export type Ladder = z.infer<typeof Ladder>

/** A cable, adapter or pad: what it is made of between its two ends. */
export const Passive = z.strictObject({
  from: Connector,
  to: Connector,
  lengthM: z.number().min(0).max(200).optional(),
  ladder: Ladder.default([]),
})

/** A thing on the shelf. Devices have ports and strips; cables, adapters and pads are `passive`. */
export const Gear = z.strictObject({
  id: Id,
  name: Name,
  maker: Name,
  kind: GearKind,
  note: Note.optional(),
  owned: z.number().int().min(0).max(99).default(0),
  price: z.number().min(0).max(1_000_000).optional().describe('in the currency of the shoot'),
  controls: z.array(Control).max(64).default([]),
  ports: z.array(Port).max(64).default([]),
  strips: z.array(Strip).max(64).default([]),
  passive: Passive.optional(),
})
export type Gear = z.infer<typeof Gear>
export type GearInput = z.input<typeof Gear>

export const isPiece = (gear: Gear): boolean => gear.passive !== undefined

/** A shelf in reach by id. */
export type Shelf = ReadonlyMap<string, Gear>
export const shelfOf = (...lists: readonly (readonly Gear[])[]): Shelf =>
  new Map(lists.flat().map((gear) => [gear.id, gear]))

/** A shelf as a file. */
export const ShelfFile = z.strictObject({
  format: z.literal('iron-hush/shelf'),
  version: z.literal(1),
  gear: z.array(Gear).max(10_000),
})
export type ShelfFile = z.infer<typeof ShelfFile>
