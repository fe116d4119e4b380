import { z } from 'zod'
import { Sensor } from './brief'
import { Connector } from './connector'
import { Control } from './control'
import { AnyFigure, FullScaleDbu, MarkDbfs, NoiseDbfs, Ohm } from './figure'
import { formatVersion } from './format-version'
import { Amount, CeilingShape, Stage } from './stage'
import { Id, Moment, Name, Note, SchemaLine, line, text, Uuid } from './text'

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
  'player',
  'desk',
])
export type GearKind = z.infer<typeof GearKind>

export const Channel = z.enum(['left', 'right'])
export type Channel = z.infer<typeof Channel>

const Contact = line(20).min(1).describe('a contact of the connector, as the trade names it')
const Gender = z.enum(['plug', 'socket'])

/** DC that an input gives out on some of its contacts, through a resistance each. */
const Supply = z.strictObject({
  name: Name,
  volts: z.number().positive().max(60),
  ohm: z.number().positive().max(1_000_000).describe('in series with each contact'),
  contacts: z.array(Contact).min(1).max(4),
  when: z.strictObject({ control: Id, is: z.array(Id).min(1).max(24) }).optional(),
})

/** Power that a thing needs over the contacts of its output. */
const PowerNeed = z.strictObject({
  name: Name,
  contacts: z.array(Contact).min(1).max(4),
  minimumVolts: z.number().positive().max(60),
  typicalVolts: z.number().positive().max(60),
  typicalAmperes: z.number().positive().max(0.02),
})

export const Port = z.strictObject({
  id: Id,
  name: Name,
  direction: z.enum(['in', 'out']),
  connector: Connector,
  channels: z.union([z.literal(1), z.literal(2)]).default(1),
  impedanceOhm: Ohm.optional().describe('source impedance of an output, load of an input; left out: ideal'),
  balanced: z.boolean().default(false),
  gender: Gender.optional().describe('left out: a lead has a plug, a wall a socket, XLR by its rule'),
  drive: z
    .enum(['floating', 'symmetric', 'impedance-balanced', 'single-ended'])
    .optional()
    .describe(
      'how an output drives its contacts; left out: floating for a balanced microphone, symmetric for any other balanced output',
    ),
  contacts: z
    .strictObject({
      left: Contact,
      right: Contact.optional(),
      cold: Contact.optional(),
      ground: z.array(Contact).min(1).max(3),
    })
    .optional()
    .describe('what each contact is for, where it is not the custom of the connector'),
  commonModeOhm: Ohm.optional().describe('of each leg of a differential input to ground'),
  capacitancePf: z.number().min(0).max(1_000_000).optional(),
  supplies: z.array(Supply).max(4).optional(),
  needs: z.array(PowerNeed).max(4).optional(),
  toleratesVolts: z
    .number()
    .min(0)
    .max(100)
    .optional()
    .describe('DC from others that it tolerates on its contacts'),
  digital: z
    .strictObject({
      ratesHz: z.array(z.number().int().min(8000).max(768_000)).min(1).max(12),
      clock: z
        .enum(['own', 'follows', 'either'])
        .describe('keeps its own clock, follows that of the other side, or does either'),
    })
    .optional()
    .describe('sound as a digital stream; left out: analogue'),
  socketOf: Id.optional().describe('the port whose socket or plug this one shares'),
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

const Wires = z.array(z.tuple([Contact, Contact])).max(16)

/** A contact of an end (0 is towards the source, 1 the other, 2 and on the further ones), or a node inside. */
const Terminal = z.union([
  z.strictObject({ end: z.number().int().min(0).max(4), contact: Contact }),
  z.strictObject({ inside: Id }),
])
const Pair = z.tuple([Terminal, Terminal])

/** A part inside a passive thing, beside its wires. */
const InsidePart = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('resistor'),
    from: Terminal,
    to: Terminal,
    ohm: z.number().positive().max(100_000_000),
  }),
  z.strictObject({
    kind: z.literal('capacitor').describe('lets sound through and keeps DC back'),
    from: Terminal,
    to: Terminal,
    microfarad: z.number().positive().max(100_000),
  }),
  z.strictObject({
    kind: z.literal('transformer'),
    first: Pair,
    second: Pair,
    ratio: z.number().positive().max(100).describe('volts at the second winding over those at the first'),
    windingOhm: z.number().min(0).max(100_000).describe('copper of the first winding'),
    secondWindingOhm: z
      .number()
      .min(0)
      .max(100_000)
      .optional()
      .describe('copper of the second winding; left out: that of the first times the ratio squared'),
    henry: z
      .number()
      .positive()
      .max(10_000)
      .describe(
        'inductance of the first winding with the second open: the bass ends where it meets the source',
      ),
    leakageHenry: z
      .number()
      .min(0)
      .max(100)
      .optional()
      .describe('inductance of the first winding with the second shorted; left out: none'),
  }),
  z.strictObject({
    kind: z.literal('converter').describe('sound into a digital stream, or out of one; it has a direction'),
    direction: z.enum(['in', 'out']),
    first: Pair,
    second: Pair,
    inputOhm: z.number().positive().max(10_000_000),
    outputOhm: z.number().positive().max(10_000_000),
  }),
  z.strictObject({
    kind: z.literal('supply').describe('DC of its own, a cell or what it makes from the other side'),
    from: Terminal,
    to: Terminal,
    volts: z.number().positive().max(60),
    ohm: z.number().positive().max(1_000_000),
  }),
])

/** A cable, adapter or pad: what it is made of between its ends. */
export const Passive = z.strictObject({
  from: Connector,
  to: Connector,
  lengthM: z.number().min(0).max(200).optional(),
  fromGender: Gender.optional(),
  toGender: Gender.optional(),
  wires: Wires.optional().describe('contact to contact; left out: straight through'),
  picofaradPerM: z
    .number()
    .min(0)
    .max(1000)
    .optional()
    .describe('between each core and the shield; left out: twice that between cores'),
  corePicofaradPerM: z
    .number()
    .min(0)
    .max(1000)
    .optional()
    .describe('between any two cores; left out: half of that to the shield'),
  shieldedAt: z
    .enum(['both', 'from', 'to', 'neither'])
    .optional()
    .describe(
      'ends at which the shield is joined to the ground contact; left out: as the wires say, and no shield where no wire leaves the ground contact',
    ),
  ladder: Ladder.default([]),
  ladderAcross: z
    .enum(['pair', 'each'])
    .optional()
    .describe(
      'pair: the ladder lies in the two legs of a balanced run, figures for both legs together, half of each series resistance in each leg and shunts from leg to leg; each: the whole ladder lies in every conductor by itself, shunts to ground. Left out: pair on XLR, three-pin and 6.35 mm of three contacts where both legs are wired, else each',
    ),
  more: z
    .array(z.strictObject({ connector: Connector, gender: Gender.optional(), wires: Wires }))
    .max(3)
    .optional()
    .describe('further ends of a splitter, each with its wires from the first'),
  parts: z.array(InsidePart).max(24).optional(),
  converter: z
    .strictObject({ fullScaleDbu: FullScaleDbu, noiseDbfsA: NoiseDbfs.optional() })
    .optional()
    .describe('levels of the converters among its parts'),
})

export type Passive = z.infer<typeof Passive>

/** Radio data of a transmitter or receiver. */
const RadioSet = z.strictObject({
  carrierMhz: z
    .union([
      z.number().min(20).max(10_000),
      z.strictObject({ control: Id, at: z.record(Id, z.number().min(20).max(10_000)) }),
    ])
    .describe('its carrier, fixed or by a switch'),
  hops: z.boolean().default(false).describe('changes its carrier many times a second around the one stated'),
  widthKhz: z.number().positive().max(100_000),
  powerMw: z.number().positive().max(10_000).optional().describe('of a transmitter'),
  sensitivityDbm: z
    .number()
    .min(-140)
    .max(0)
    .optional()
    .describe('least power that a receiver still follows'),
  linkS: z.number().min(0).max(600).default(0).describe('from power-on until the two have found each other'),
})
export type RadioSet = z.infer<typeof RadioSet>

/** How a microphone is used: worn on the body, held, on a boom or stand, on the camera, on a table. */
export const Mount = z.enum(['worn', 'hand', 'boom', 'camera', 'table'])
export type Mount = z.infer<typeof Mount>

/** A meter that shows marks, not numbers, lowest first. */
const Meter = z.strictObject({
  marks: z
    .array(z.strictObject({ id: Id, name: Name, atDbfs: MarkDbfs }))
    .min(1)
    .max(12),
})

/** Value of a figure, law or shape before or after it was learnt; null: not given. */
export const LearntValue = z.union([AnyFigure, Amount, CeilingShape, z.null()])
export type LearntValue = z.infer<typeof LearntValue>

/** Where in a thing a figure belongs: in a stage of a strip, or at a mark of its meter. */
export const FigurePlace = z.union([
  z.strictObject({ strip: Id, stage: z.number().int().min(0).max(39), field: text(40) }),
  z.strictObject({ mark: Id }),
])
export type FigurePlace = z.infer<typeof FigurePlace>

/** A figure that was learnt on the real box: when, from what, and what stood there before. */
export const LearntFigure = z.strictObject({
  id: Uuid,
  at: Moment,
  places: z.array(FigurePlace).min(1).max(64).describe('alike in every channel of the thing'),
  name: text(130).describe('what it is a figure of'),
  source: text(400).describe('the readings or clips that it comes from'),
  before: LearntValue,
  after: LearntValue,
  toleranceDb: z.number().min(0).max(200).optional().describe('of a law, where it is least sure'),
})
export type LearntFigure = z.infer<typeof LearntFigure>

/** A thing on the shelf. Devices have ports and strips; cables, adapters and pads are `passive`. */
export const Gear = z.strictObject({
  id: Id,
  name: Name,
  maker: Name,
  kind: GearKind,
  note: Note.optional(),
  owned: z.number().int().min(0).max(99).default(0),
  price: z.number().min(0).max(1_000_000).optional().describe('in the currency of the shoot'),
  standIn: z
    .boolean()
    .optional()
    .describe('stands for a thing that is not known yet, with figures typical of its kind; never proposed'),
  copyOf: Id.optional().describe('the thing of which this is a copy of one’s own, to take what is learnt'),
  learnt: z
    .array(LearntFigure)
    .max(400)
    .optional()
    .describe('figures that were learnt on the real thing, oldest first'),
  meter: Meter.optional().describe('a meter without numbers; left out: it reads in dBFS'),
  controls: z.array(Control).max(64).default([]),
  ports: z.array(Port).max(64).default([]),
  strips: z.array(Strip).max(64).default([]),
  passive: Passive.optional(),
  radio: RadioSet.optional(),
  mount: Mount.optional().describe('of a microphone, what it is made for; left out: boom'),
  picture: z
    .strictObject({ sensor: Sensor, focalLengthMm: z.number().min(1).max(2000) })
    .optional()
    .describe('of a camera, its sensor and the lens that is usually on it'),
})
export type Gear = z.infer<typeof Gear>
export type GearInput = z.input<typeof Gear>

/** Kinds of boxes that a voice may pass on its way into a camera, and that can be left out. */
export const betweenKinds: ReadonlySet<GearKind> = new Set(['preamplifier', 'mixer', 'recorder'])

export const isPiece = (gear: Gear): boolean => gear.passive !== undefined

/** Gear that may be proposed: everything except placeholders for things not known yet. */
export const thingsOf = (shelf: Shelf): Gear[] => [...shelf.values()].filter(({ standIn }) => !standIn)

/** A shelf in reach by id. */
export type Shelf = ReadonlyMap<string, Gear>
export const shelfOf = (...lists: readonly (readonly Gear[])[]): Shelf =>
  new Map(lists.flat().map((gear) => [gear.id, gear]))

/** A shelf as a file. */
export const ShelfFile = z.strictObject({
  $schema: SchemaLine,
  format: z.literal('iron-hush/shelf'),
  version: z.literal(formatVersion),
  gear: z.array(Gear).max(10_000),
})
export type ShelfFile = z.infer<typeof ShelfFile>
