import { z } from 'zod'

/** Sockets and plugs that an answer may name. */
export const Plug = z.enum(['xlr-3', 'ta-3', 'mini-3', 'mini-4', 'jack-2', 'jack-3', 'rca', 'usb-c'])
const name = z.string().trim().min(1).max(120)
const db = z.number().min(-100).max(100)

/** How a level is set: in dB, in numbered steps of about equal size, by a few named steps, or not at all. */
const LevelAnswer = z.discriminatedUnion('by', [
  z
    .strictObject({ by: z.literal('decibels'), from: db, to: db, step: z.number().min(0.1).max(24) })
    .meta({ title: 'in dB', examples: [{ by: 'decibels', from: 0, to: 40, step: 1 }] })
    .refine(({ from, to }) => to > from, 'the level must reach higher than it begins'),
  z
    .strictObject({ by: z.literal('scale'), steps: z.number().int().min(2).max(1000) })
    .meta({ title: 'by an unmarked scale', examples: [{ by: 'scale', steps: 31 }] }),
  z
    .strictObject({ by: z.literal('names'), names: z.array(name).min(2).max(12) })
    .meta({ title: 'by named steps', examples: [{ by: 'names', names: ['low', 'middle', 'high'] }] }),
  z.strictObject({ by: z.literal('itself') }).meta({ title: 'by itself' }),
])
export type LevelAnswer = z.infer<typeof LevelAnswer>

const RadioWay = z.enum(['digital', 'analogue']).meta({ title: 'sends' })
const Carrier = z.number().min(20).max(10_000).meta({ title: 'carrier' })

/** Answers needed to make a box, by kind. Figures not asked for are typical of the kind. */
export const OwnBox = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('camera'),
    name,
    input: z.enum(['mini-3', 'mini-4', 'xlr-3', 'none']),
    channels: z.union([z.literal(1), z.literal(2)]),
    level: LevelAnswer.meta({ title: 'level is set' }),
    automaticToo: z.boolean().meta({ title: 'automatic gain too, by a switch' }),
    power: z.enum(['none', 'always', 'switched']).meta({ title: 'power for microphones' }),
    builtIn: z.boolean().meta({ title: 'built-in microphone' }),
    bits: z.union([z.literal(16), z.literal(24)]),
  }),
  z
    .strictObject({
      kind: z.literal('microphone'),
      name,
      mount: z.enum(['boom', 'worn', 'hand', 'camera', 'table']).meta({ title: 'used on' }),
      plug: Plug.exclude(['usb-c']),
      power: z.enum(['phantom', 'plug-in', 'battery', 'none']).meta({ title: 'powered by' }),
      pattern: z.number().min(0).max(1).meta({ title: 'pattern, 1 omni to 0 figure-eight' }),
      sensitivityDbvPa: z
        .number()
        .min(-80)
        .max(0)
        .meta({ examples: [-38] })
        .optional(),
      selfNoiseDba: z
        .number()
        .min(0)
        .max(60)
        .meta({ examples: [18] })
        .optional(),
      maximumDbSpl: z
        .number()
        .min(80)
        .max(180)
        .meta({ examples: [124] })
        .optional(),
    })
    .refine(
      ({ plug, power }) => power !== 'phantom' || plug === 'xlr-3',
      'phantom power comes by XLR: choose that plug, or another power',
    )
    .refine(
      ({ plug, power }) => power !== 'plug-in' || plug !== 'xlr-3',
      'plug-in power does not come by XLR: choose another plug, or phantom power',
    ),
  z.strictObject({
    kind: z.literal('recorder'),
    name,
    inputs: z.number().int().min(1).max(8),
    input: z.enum(['xlr-3', 'mini-3']),
    level: LevelAnswer.meta({ title: 'level is set' }),
    phantom: z.boolean().meta({ title: 'gives power to microphones' }),
    output: z.enum(['none', 'mini-3', 'xlr-3', 'jack-3']),
    floating: z.boolean().meta({ title: '32-bit float' }),
  }),
  z.strictObject({
    kind: z.enum(['preamplifier', 'mixer']),
    name,
    inputs: z.number().int().min(1).max(8),
    input: z.enum(['xlr-3', 'mini-3']),
    level: LevelAnswer.meta({ title: 'level is set' }),
    phantom: z.boolean().meta({ title: 'gives power to microphones' }),
    output: z.enum(['mini-3', 'xlr-3', 'jack-3']),
    outputLevel: z.enum(['mic', 'line']).meta({ title: 'output at the level of' }),
  }),
  z.strictObject({
    kind: z.literal('transmitter'),
    name,
    input: z.enum(['mini-3', 'ta-3', 'xlr-3']),
    level: LevelAnswer.meta({ title: 'level is set' }),
    power: z.boolean().meta({ title: 'gives power to microphones' }),
    over: RadioWay,
    carrierMhz: Carrier,
    recordsInside: z.boolean().meta({ title: 'records inside' }),
  }),
  z.strictObject({
    kind: z.literal('receiver'),
    name,
    output: z.enum(['mini-3', 'xlr-3']),
    outputLevel: z.enum(['mic', 'line']).meta({ title: 'output at the level of' }),
    over: RadioWay,
    carrierMhz: Carrier,
  }),
  z
    .strictObject({
      kind: z.enum(['cable', 'pad']),
      name,
      from: Plug,
      to: Plug,
      lengthM: z.number().min(0).max(200),
      lossDb: z.number().min(0).max(80),
    })
    .refine(
      ({ from, to }) => (from === 'usb-c') === (to === 'usb-c'),
      'a lead of wires does not join USB-C and another plug: that takes a converter',
    ),
])
export type OwnBox = z.infer<typeof OwnBox>
export type OwnBoxKind = OwnBox['kind']

/** Answers to begin with: the commonest thing of each kind. */
export const firstAnswers: Record<OwnBoxKind, OwnBox> = {
  camera: {
    kind: 'camera',
    name: 'My camera',
    input: 'mini-3',
    channels: 2,
    level: { by: 'scale', steps: 31 },
    automaticToo: true,
    power: 'always',
    builtIn: true,
    bits: 16,
  },
  microphone: {
    kind: 'microphone',
    name: 'My microphone',
    mount: 'boom',
    plug: 'xlr-3',
    power: 'phantom',
    pattern: 0.5,
  },
  recorder: {
    kind: 'recorder',
    name: 'My recorder',
    inputs: 2,
    input: 'xlr-3',
    level: { by: 'decibels', from: 10, to: 60, step: 1 },
    phantom: true,
    output: 'mini-3',
    floating: false,
  },
  preamplifier: {
    kind: 'preamplifier',
    name: 'My preamplifier',
    inputs: 1,
    input: 'xlr-3',
    level: { by: 'decibels', from: 10, to: 50, step: 5 },
    phantom: true,
    output: 'mini-3',
    outputLevel: 'mic',
  },
  mixer: {
    kind: 'mixer',
    name: 'My mixer',
    inputs: 2,
    input: 'xlr-3',
    level: { by: 'decibels', from: 0, to: 50, step: 2 },
    phantom: true,
    output: 'mini-3',
    outputLevel: 'line',
  },
  transmitter: {
    kind: 'transmitter',
    name: 'My transmitter',
    input: 'mini-3',
    level: { by: 'decibels', from: 24, to: 48, step: 6 },
    power: true,
    over: 'digital',
    carrierMhz: 2440,
    recordsInside: false,
  },
  receiver: {
    kind: 'receiver',
    name: 'My receiver',
    output: 'mini-3',
    outputLevel: 'line',
    over: 'digital',
    carrierMhz: 2440,
  },
  cable: { kind: 'cable', name: 'My lead', from: 'mini-3', to: 'mini-3', lengthM: 1, lossDb: 0 },
  pad: { kind: 'pad', name: 'My pad', from: 'mini-3', to: 'mini-3', lengthM: 0.1, lossDb: 25 },
}

/** The answers for a camera, a microphone, a recorder, for what amplifies or mixes, for both ends of a radio, and for a piece. */
export type CameraAnswers = Extract<OwnBox, { input: string; automaticToo: boolean }>
export type MicrophoneAnswers = Extract<OwnBox, { mount: string }>
export type RecorderAnswers = Extract<OwnBox, { floating: boolean }>
export type MixerAnswers = Extract<OwnBox, { inputs: number; outputLevel: string }>
export type TransmitterAnswers = Extract<OwnBox, { recordsInside: boolean }>
export type ReceiverAnswers = Extract<OwnBox, { kind: 'receiver' }>
export type PieceAnswers = Extract<OwnBox, { lossDb: number }>
