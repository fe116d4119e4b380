import type { Control, GearInput } from '../../model'
import type { CameraAnswers } from './answers'
import { levelControl } from './level'
import { automatic, type Made, onOff, xlrInput } from './typical'

type Ports = NonNullable<GearInput['ports']>
type Stages = NonNullable<GearInput['strips']>[number]['stages']
type Amount = ReturnType<typeof levelControl>['gainDb']

const first: Stages[number] = {
  kind: 'gain',
  name: 'First amplifier',
  gainDb: 24,
  inputNoiseDbuA: 'unknown',
  inputCeilingDbu: 'unknown',
  ceilingShape: 'bent',
}

const capsule: Stages[number] = {
  kind: 'transducer',
  name: 'Capsule',
  sensitivityDbvPa: 'unknown',
  selfNoiseDba: 'unknown',
  maximumDbSpl: 'unknown',
  pattern: 1,
}

const mode: Control = {
  kind: 'switch',
  id: 'mode',
  name: 'Level',
  positions: [
    { id: 'manual', name: 'manual' },
    { id: 'auto', name: 'automatic' },
  ],
  initial: 'manual',
}

export function cameraOf(answers: CameraAnswers): Made {
  const { input, level, automaticToo } = answers
  const isXlr = input === 'xlr-3'
  const tracks = tracksOf(answers)
  const hasMode = automaticToo && level.by !== 'itself'
  // XLR inputs have a level each, a stereo socket has one for both sides
  const levels = isXlr
    ? tracks.map(({ channel }) => levelControl(level, `level-${channel}`, `Level ${channel}`, 0))
    : [levelControl(level, 'level', 'Record level', 0)]
  return {
    kind: 'camera',
    picture: { sensor: 'APS-C', focalLengthMm: 35 },
    controls: [
      ...levels.flatMap(({ controls }) => controls),
      ...(hasMode ? [mode] : []),
      ...powerControls(answers).map(({ id, name }) => onOff(id, name)),
    ],
    ports: portsOf(answers),
    strips: [
      ...tracks.flatMap(({ bus, from }) =>
        from ? [{ id: `in-${bus}`, from, stages: [first], to: [{ bus }] }] : [],
      ),
      ...(hasBuiltIn(answers)
        ? [
            {
              id: 'built-in',
              from: { port: 'air' },
              stages: [capsule, first],
              to: tracks.map(({ bus }) => ({ bus })),
            },
          ]
        : []),
      ...tracks.map(({ bus, name }, at) => ({
        id: bus,
        from: { bus },
        stages: behind(answers, levels[at % levels.length]!.gainDb, name, bus),
      })),
    ],
  }
}

/** Stages behind the first amplifier of a channel. */
function behind(
  { level, automaticToo, bits }: CameraAnswers,
  gainDb: Amount,
  name: string,
  track: string,
): Stages {
  const itself = level.by === 'itself'
  return [
    ...(itself ? [automatic] : [{ kind: 'gain' as const, name: 'Record level', gainDb }]),
    ...(automaticToo && !itself ? [{ ...automatic, when: { control: 'mode', is: ['auto'] } }] : []),
    { kind: 'converter-in', name: 'Converter', fullScaleDbu: 'unknown', noiseDbfsA: 'unknown', bits },
    { kind: 'recording', name, track },
  ]
}

interface Track {
  bus: string
  channel: string
  name: string
  /** Its external inputs; left out: only the built-in microphone. */
  from?: { port: string; channel?: 'left' | 'right' }
}

/** The tracks that it writes: one a channel of its sockets. A headset socket brings one. */
function tracksOf({ input, channels }: CameraAnswers): Track[] {
  if (input === 'none') return [{ bus: 'mono', channel: '1', name: 'sound' }]
  if (input === 'xlr-3')
    return Array.from({ length: channels }, (_, at) => `${at + 1}`).map((channel) => ({
      bus: channel,
      channel,
      name: `channel ${channel}`,
      from: { port: `in-${channel}` },
    }))
  const sides = input === 'mini-4' || channels === 1 ? (['left'] as const) : (['left', 'right'] as const)
  return sides.map((side, at) => ({
    bus: side,
    channel: `${at + 1}`,
    name: sides.length === 1 ? 'sound' : side,
    from: { port: 'mic', channel: side },
  }))
}

const hasBuiltIn = ({ builtIn, input }: CameraAnswers): boolean => builtIn || input === 'none'

/** Switches of the power that it gives: one for each XLR input, one for a stereo socket where it can be switched. */
function powerControls(answers: CameraAnswers): { id: string; name: string }[] {
  const { input, power } = answers
  if (input === 'none' || power === 'none') return []
  if (input === 'xlr-3')
    return tracksOf(answers).map(({ channel }) => ({ id: `phantom-${channel}`, name: `Phantom ${channel}` }))
  return power === 'switched' ? [{ id: 'power', name: 'Plug-in power' }] : []
}

function portsOf(answers: CameraAnswers): Ports {
  const { input, power } = answers
  const tracks = tracksOf(answers)
  const air: Ports = hasBuiltIn(answers)
    ? [{ id: 'air', name: 'built-in microphone', direction: 'in', connector: 'air' }]
    : []
  if (input === 'none') return air
  if (input === 'xlr-3') return [...tracks.map(({ channel }) => xlrInput(channel, power !== 'none')), ...air]
  const contacts = input === 'mini-4' ? ['sleeve'] : tracks.length === 2 ? ['tip', 'ring'] : ['tip']
  const plugIn = {
    name: 'plug-in power',
    volts: 2.4,
    ohm: 2200,
    contacts,
    ...(power === 'switched' && { when: { control: 'power', is: ['on'] } }),
  }
  return [
    {
      id: 'mic',
      name: input === 'mini-4' ? 'headset socket' : 'microphone in',
      direction: 'in',
      connector: input,
      channels: tracks.length === 2 ? 2 : 1,
      impedanceOhm: 'unknown',
      ...(input === 'mini-4' && { contacts: { left: 'sleeve', ground: ['second ring'] } }),
      ...(power !== 'none' && { supplies: [plugIn] }),
    },
    ...air,
  ]
}
