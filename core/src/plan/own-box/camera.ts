import type { Control, GearInput } from '../../model'
import type { CameraAnswers } from './answers'
import { levelControl } from './level'
import { automatic, type Made, onOff, phantom } from './typical'

type Ports = NonNullable<GearInput['ports']>
type Strips = NonNullable<GearInput['strips']>
type Stages = Strips[number]['stages']

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
  const { input, level, automaticToo, bits } = answers
  const set = levelControl(level, 'level', 'Record level', 0)
  const itself = level.by === 'itself'
  const hasMode = automaticToo && !itself
  const follows: Stages = itself
    ? [automatic]
    : hasMode
      ? [{ ...automatic, when: { control: 'mode', is: ['auto'] } }]
      : []
  const behind = (label: string, track: string): Stages => [
    ...(itself ? [] : [{ kind: 'gain' as const, name: 'Record level', gainDb: set.gainDb }]),
    ...follows,
    { kind: 'converter-in', name: 'Converter', fullScaleDbu: 'unknown', noiseDbfsA: 'unknown', bits },
    { kind: 'recording', name: label, track },
  ]
  return {
    kind: 'camera',
    picture: { sensor: 'APS-C', focalLengthMm: 35 },
    controls: [
      ...set.controls,
      ...(hasMode ? [mode] : []),
      ...(hasPowerSwitch(answers) ? [onOff('power', powerNames[input === 'xlr-3' ? 'xlr' : 'mini'])] : []),
    ],
    ports: portsOf(answers),
    strips: stripsOf(answers, behind),
  }

  function stripsOf({ builtIn }: CameraAnswers, stages: (label: string, track: string) => Stages): Strips {
    const plugged = sidesOf(answers).map((channel, at) => ({
      id: channel,
      from: input === 'xlr-3' ? { port: `in-${at + 1}` } : { port: 'mic', channel },
      stages: [first, ...stages(input === 'xlr-3' ? `channel ${at + 1}` : channel, channel)],
    }))
    const own = {
      id: 'built-in',
      from: { port: 'air' },
      stages: [capsule, first, ...stages('built in', 'built-in')],
    }
    return [...plugged, ...(builtIn || input === 'none' ? [own] : [])]
  }
}

const powerNames = { xlr: 'Phantom power', mini: 'Plug-in power' }

/** Channels that come in by its sockets. A headset socket brings one. */
function sidesOf({ input, channels }: CameraAnswers): ('left' | 'right')[] {
  if (input === 'none') return []
  return input !== 'mini-4' && channels === 2 ? ['left', 'right'] : ['left']
}

const hasPowerSwitch = ({ input, power }: CameraAnswers): boolean =>
  input !== 'none' && (power === 'switched' || (input === 'xlr-3' && power === 'always'))

function portsOf(answers: CameraAnswers): Ports {
  const { input, power, builtIn } = answers
  const sides = sidesOf(answers)
  const air: Ports =
    builtIn || input === 'none'
      ? [{ id: 'air', name: 'built-in microphone', direction: 'in', connector: 'air' }]
      : []
  if (input === 'none') return air
  if (input === 'xlr-3')
    return [
      ...sides.map((_, at): Ports[number] => ({
        id: `in-${at + 1}`,
        name: `input ${at + 1}`,
        direction: 'in',
        connector: 'xlr-3',
        balanced: true,
        impedanceOhm: 'unknown',
        ...(power !== 'none' && { supplies: phantom('power') }),
      })),
      ...air,
    ]
  const contacts = input === 'mini-4' ? ['sleeve'] : sides.length === 2 ? ['tip', 'ring'] : ['tip']
  const plugIn = {
    name: 'plug-in power',
    volts: 2.4,
    ohm: 2200,
    contacts,
    ...(hasPowerSwitch(answers) && { when: { control: 'power', is: ['on'] } }),
  }
  return [
    {
      id: 'mic',
      name: input === 'mini-4' ? 'headset socket' : 'microphone in',
      direction: 'in',
      connector: input,
      channels: sides.length === 2 ? 2 : 1,
      impedanceOhm: 'unknown',
      ...(input === 'mini-4' && { contacts: { left: 'sleeve', ground: ['second ring'] } }),
      ...(power !== 'none' && { supplies: [plugIn] }),
    },
    ...air,
  ]
}
