import { z } from 'zod'
import {
  CeilingDbu,
  CeilingSpl,
  DynamicRangeDb,
  EarSensitivity,
  FullScaleDbu,
  NoiseDbfs,
  NoiseDbu,
  NoiseSpl,
  Ohm,
  SensitivityDbvPa,
} from './figure'
import { Id, Name } from './text'

/** The shape a wave takes at a ceiling. */
export const CeilingShape = z.enum(['flat', 'bent', 'sagging'])
export type CeilingShape = z.infer<typeof CeilingShape>

/** Largest change of level by any box, dB. */
export const mostAmountDb = 150
const decibels = z.number().min(-mostAmountDb).max(mostAmountDb)

/**
 * An amount in dB: fixed, or following a control. `at` names the amount at each switch position; `perUnit` and
 * `offset` make a straight law of a knob or scale; `points` is a law by corner points [position, dB], straight
 * between them.
 */
export const Amount = z.union([
  decibels.meta({ title: 'fixed' }),
  z.strictObject({ control: Id, at: z.record(Id, decibels) }).meta({ title: 'by the position of a control' }),
  z
    .strictObject({ control: Id, perUnit: z.number().min(-100).max(100), offset: decibels.default(0) })
    .meta({ title: 'so much for each mark of a control' }),
  z
    .strictObject({
      control: Id,
      points: z
        .array(z.tuple([z.number(), decibels]))
        .min(2)
        .max(200),
    })
    .meta({ title: 'by points of a control' }),
])
export type Amount = z.infer<typeof Amount>

/** The switch position in which a stage acts; without it the stage always acts. */
const When = z.strictObject({ control: Id, is: z.array(Id).min(1).max(24) })

/**
 * How a microphone hears from the side: of first order, or by a table over frequency, as an interference tube does.
 * Every row of a table is the level in dB re the axis at each of its angles.
 */
export const Directivity = z.union([
  z
    .number()
    .min(0)
    .max(1)
    .describe('a of a + (1 - a) cos(angle): 1 omni, 0.5 cardioid, 0.25 hypercardioid, 0 figure-eight'),
  z
    .strictObject({
      anglesDeg: z.array(z.number().min(0).max(180)).min(2).max(37).describe('rising, from 0 to 180'),
      bands: z
        .array(
          z.strictObject({ hz: z.number().min(20).max(20_000), db: z.array(z.number().min(-60).max(12)) }),
        )
        .min(1)
        .max(31),
    })
    .refine(
      ({ anglesDeg, bands }) =>
        anglesDeg[0] === 0 &&
        anglesDeg.at(-1) === 180 &&
        anglesDeg.every((angle, index) => index === 0 || angle > anglesDeg[index - 1]!) &&
        bands.every(
          ({ hz, db }, index) => db.length === anglesDeg.length && (index === 0 || hz > bands[index - 1]!.hz),
        ),
      'angles and bands must rise, angles from 0 to 180, and every band have a level for each angle',
    ),
])
export type Directivity = z.infer<typeof Directivity>

const named = { name: Name.optional() }
const amplifier = {
  ...named,
  inputNoiseDbuA: NoiseDbu.optional(),
  inputNoiseAtOhm: Ohm.optional().describe(
    'source impedance at which the input noise is stated; 150 if left out',
  ),
  inputCeilingDbu: CeilingDbu.optional(),
  outputNoiseDbuA: NoiseDbu.optional(),
  outputCeilingDbu: CeilingDbu.optional(),
  ceilingShape: CeilingShape.default('flat'),
}

/** One stage of a strip. A noise or ceiling that is left out means the stage has none worth counting. */
export const Stage = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z
      .literal('transducer')
      .describe('pressure into voltage: a microphone capsule with its own electronics'),
    ...named,
    sensitivityDbvPa: SensitivityDbvPa,
    selfNoiseDba: NoiseSpl,
    maximumDbSpl: CeilingSpl,
    ceilingShape: CeilingShape.default('bent'),
    pattern: Directivity.default(1),
  }),
  z.strictObject({ kind: z.literal('gain'), ...amplifier, gainDb: Amount, when: When.optional() }),
  z.strictObject({
    kind: z.literal('pad').describe('an attenuator inside a box'),
    ...named,
    lossDb: Amount,
    outputNoiseDbuA: NoiseDbu.optional().describe('noise of its resistances; none if left out'),
    when: When.optional(),
  }),
  z.strictObject({
    kind: z.literal('low-cut').describe('passes the voice; its corner is for the rumble under it'),
    ...named,
    cornerHz: z.number().min(10).max(1000),
    when: When.optional(),
  }),
  z.strictObject({
    kind: z.literal('limiter'),
    ...named,
    threshold: z.number().min(-90).max(40).describe('dBu, or dBFS after a converter'),
    ratio: z.number().min(1).max(1000).default(20),
    attackMs: z.number().min(0.05).max(1000).default(1),
    releaseMs: z.number().min(1).max(60_000).default(150),
    when: When.optional(),
  }),
  z.strictObject({
    kind: z.literal('agc').describe('automatic gain: turns itself towards a target level, up to a maximum'),
    ...named,
    target: z.number().min(-90).max(40).describe('dBu, or dBFS after a converter, RMS'),
    minimumGainDb: decibels.default(0),
    maximumGainDb: decibels,
    attackMs: z.number().min(0.1).max(10_000).default(40),
    holdMs: z.number().min(0).max(60_000).default(300),
    releaseMs: z.number().min(1).max(60_000).default(1500),
    linked: Id.optional().describe(
      'stages of one name in one box turn together: the loudest of their channels decides',
    ),
    when: When.optional(),
  }),
  z.strictObject({
    kind: z.literal('converter-in').describe('analogue to digital'),
    ...named,
    fullScaleDbu: FullScaleDbu,
    noiseDbfsA: NoiseDbfs.optional().describe('whole noise of the converter; from its bits if left out'),
    bits: z.number().int().min(8).max(32).optional(),
  }),
  z.strictObject({ kind: z.literal('digital-gain'), ...named, gainDb: Amount }),
  z.strictObject({
    kind: z.literal('duck').describe('falls by a depth while another signal speaks'),
    ...named,
    depthDb: z.number().min(0).max(80),
    when: When.optional(),
  }),
  z.strictObject({
    kind: z.literal('converter-out').describe('digital to analogue'),
    ...named,
    fullScaleDbu: FullScaleDbu,
    outputNoiseDbuA: NoiseDbu.optional(),
  }),
  z.strictObject({
    kind: z.literal('radio').describe('the air between transmitter and receiver'),
    ...named,
    ceilingDbu: CeilingDbu,
    dynamicRangeDb: DynamicRangeDb.describe('ceiling over A-weighted noise'),
    delayMs: z.number().min(0).max(200).default(0),
  }),
  z.strictObject({
    kind: z.literal('recording').describe('a track is written here; the signal also goes on'),
    name: Name,
    track: Id,
    bits: z.number().int().min(8).max(32).optional().describe('word length when coarser than the converter'),
    floating: z.boolean().default(false).describe('floating point: the digital side has no ceiling'),
    lowerDb: z
      .number()
      .min(0)
      .max(40)
      .default(0)
      .describe('a safety track, written this much lower on purpose'),
  }),
  z.strictObject({
    kind: z.literal('listen').describe('a pair of ears hangs here: headphones'),
    name: Name,
    sensitivityDbSplAtVolt: EarSensitivity,
  }),
])
export type Stage = z.infer<typeof Stage>
export type StageKind = Stage['kind']

/** Name of a stage that has none of its own. */
export const stageNames: Record<Stage['kind'], string> = {
  transducer: 'Capsule',
  gain: 'Amplifier',
  pad: 'Pad',
  'low-cut': 'Low-cut',
  limiter: 'Limiter',
  agc: 'Automatic gain',
  'converter-in': 'Converter',
  'digital-gain': 'Digital level',
  duck: 'Ducking',
  'converter-out': 'Converter out',
  radio: 'Radio',
  recording: 'Track',
  listen: 'Ears',
}
