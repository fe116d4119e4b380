import { Gear } from '../model'

/** A camera of which only the manner is known. Every figure is the typical one of a camera, and says so. */
export interface UnknownCamera {
  id: string
  name: string
  note: string
  gear: Gear
}

const plugIn = { name: 'plug-in power', volts: 2.4, ohm: 2200 }
const stages = (gain: object[], name: string, track: string) => [
  {
    kind: 'gain',
    name: 'First amplifier',
    gainDb: 24,
    inputNoiseDbuA: 'unknown',
    inputCeilingDbu: 'unknown',
    ceilingShape: 'bent',
  },
  ...gain,
  { kind: 'converter-in', name: 'Converter', fullScaleDbu: 'unknown', noiseDbfsA: 'unknown', bits: 16 },
  { kind: 'recording', name, track },
]
const automatic = { kind: 'agc', name: 'Automatic gain', target: -25, minimumGainDb: -15, maximumGainDb: 24 }

function stereoCamera(id: string, name: string, controls: object[], gain: object[]): Gear {
  return Gear.parse({
    id,
    name,
    maker: 'unknown',
    kind: 'camera',
    note: 'Little is known of it: every figure is typical of its kind.',
    owned: 1,
    controls,
    ports: [
      {
        id: 'mic',
        name: 'microphone in',
        direction: 'in',
        connector: 'mini-3',
        channels: 2,
        impedanceOhm: 'unknown',
        supplies: [{ ...plugIn, contacts: ['tip', 'ring'] }],
      },
    ],
    strips: (['left', 'right'] as const).map((channel) => ({
      id: channel,
      from: { port: 'mic', channel },
      stages: stages(gain, channel, channel),
    })),
    picture: { sensor: 'APS-C', focalLengthMm: 35 },
  })
}

const knob = {
  kind: 'knob',
  id: 'level',
  name: 'Record level',
  minimum: -24,
  maximum: 24,
  click: 1,
  initial: 0,
}
const scale = { kind: 'scale', id: 'level', name: 'Record level', steps: 31, initial: 12 }

const withXlr = Gear.parse({
  id: 'unknown-xlr-camera',
  name: 'Camera with XLR inputs',
  maker: 'unknown',
  kind: 'camera',
  note: 'Little is known of it: every figure is typical of its kind.',
  owned: 1,
  controls: ['1', '2'].flatMap((channel) => [
    { ...knob, id: `level-${channel}`, name: `Level ${channel}` },
    {
      kind: 'switch',
      id: `phantom-${channel}`,
      name: `Phantom ${channel}`,
      positions: [
        { id: 'off', name: 'off' },
        { id: 'on', name: 'on' },
      ],
      initial: 'off',
    },
  ]),
  ports: ['1', '2'].map((channel) => ({
    id: `in-${channel}`,
    name: `input ${channel}`,
    direction: 'in',
    connector: 'xlr-3',
    balanced: true,
    impedanceOhm: 'unknown',
    supplies: [
      {
        name: 'phantom power',
        volts: 48,
        ohm: 6810,
        contacts: ['2', '3'],
        when: { control: `phantom-${channel}`, is: ['on'] },
      },
    ],
  })),
  strips: ['1', '2'].map((channel) => ({
    id: `channel-${channel}`,
    from: { port: `in-${channel}` },
    stages: stages(
      [{ kind: 'gain', name: 'Level', gainDb: { control: `level-${channel}`, perUnit: 1 } }],
      `channel ${channel}`,
      channel,
    ),
  })),
  picture: { sensor: 'one inch', focalLengthMm: 15 },
})

const builtIn = [
  {
    kind: 'transducer',
    name: 'Capsule',
    sensitivityDbvPa: 'unknown',
    selfNoiseDba: 'unknown',
    maximumDbSpl: 'unknown',
    pattern: 1,
  },
  {
    kind: 'gain',
    name: 'First amplifier',
    gainDb: 20,
    inputNoiseDbuA: 'unknown',
    inputCeilingDbu: 'unknown',
    ceilingShape: 'bent',
  },
]

/** A phone or an action camera: one channel, its own microphone, automatic gain. */
function pocketCamera(id: string, name: string, port: object): Gear {
  return Gear.parse({
    id,
    name,
    maker: 'unknown',
    kind: 'camera',
    note: 'Little is known of it: every figure is typical of its kind.',
    owned: 1,
    ports: [port, { id: 'air', name: 'built-in microphone', direction: 'in', connector: 'air' }],
    strips: [
      { id: 'plug', from: { port: 'mic' }, stages: [builtIn[1]], to: [{ bus: 'voice' }] },
      { id: 'built-in', from: { port: 'air' }, stages: builtIn, to: [{ bus: 'voice' }] },
      { id: 'voice', from: { bus: 'voice' }, stages: [automatic, ...stages([], 'sound', 'mono').slice(1)] },
    ],
    picture: { sensor: 'action camera', focalLengthMm: 6 },
  })
}

const micPort = { id: 'mic', direction: 'in', impedanceOhm: 'unknown' }

/** Cameras that are not on the shelf, by their manner. */
export const unknownCameras: readonly UnknownCamera[] = [
  {
    id: 'marked',
    name: 'marked levels',
    note: 'a level in dB, mini socket',
    gear: stereoCamera(
      'unknown-marked-camera',
      'Camera with marked levels',
      [knob],
      [{ kind: 'gain', name: 'Record level', gainDb: { control: 'level', perUnit: 1 } }],
    ),
  },
  {
    id: 'scale',
    name: 'unmarked scale',
    note: 'a level of 0 to 30, mini socket',
    gear: stereoCamera(
      'unknown-scale-camera',
      'Camera with an unmarked scale',
      [scale],
      [{ kind: 'gain', name: 'Record level', gainDb: { control: 'level', perUnit: 1.2, offset: -18 } }],
    ),
  },
  {
    id: 'automatic',
    name: 'automatic only',
    note: 'sets its level itself',
    gear: stereoCamera('unknown-automatic-camera', 'Camera with automatic gain only', [], [automatic]),
  },
  { id: 'xlr', name: 'XLR inputs', note: 'two inputs with phantom', gear: withXlr },
  {
    id: 'phone',
    name: 'a phone',
    note: 'headset socket',
    gear: pocketCamera('unknown-phone', 'Phone', {
      ...micPort,
      name: 'headset socket',
      connector: 'mini-4',
      contacts: { left: 'sleeve', ground: ['second ring'] },
      supplies: [{ ...plugIn, contacts: ['sleeve'] }],
    }),
  },
  {
    id: 'action',
    name: 'an action camera',
    note: 'one channel, automatic',
    gear: pocketCamera('unknown-action-camera', 'Action camera', {
      ...micPort,
      name: 'microphone in',
      connector: 'mini-3',
      supplies: [{ ...plugIn, contacts: ['tip'] }],
    }),
  },
]
