import type { Connector } from '../../model'
import type { MixerAnswers, RecorderAnswers } from './answers'
import { levelControl } from './level'
import { automatic, type Made, onOff, typical, xlrInput } from './typical'

const inputs = (count: number) => Array.from({ length: count }, (_, at) => `${at + 1}`)

const inputPort = (
  channel: string,
  connector: 'xlr-3' | 'mini-3',
  powered: boolean,
): NonNullable<Made['ports']>[number] =>
  connector === 'xlr-3'
    ? xlrInput(channel, powered)
    : {
        id: `in-${channel}`,
        name: `input ${channel}`,
        direction: 'in',
        connector,
        impedanceOhm: 'unknown',
        ...(powered && {
          supplies: [
            {
              name: 'plug-in power',
              volts: 2.4,
              ohm: 2200,
              contacts: ['tip'],
              when: { control: `phantom-${channel}`, is: ['on'] },
            },
          ],
        }),
      }

const powerName = (connector: Connector, channel: string) =>
  `${connector === 'xlr-3' ? 'Phantom' : 'Plug-in power'} ${channel}`

/** An input with its gain and its power, as recorders and mixers have them. */
function inputOf(
  channel: string,
  { input, level, phantom: hasPhantom }: Pick<RecorderAnswers, 'input' | 'level' | 'phantom'>,
) {
  const set = levelControl(level, `gain-${channel}`, `Gain ${channel}`, 35)
  return {
    controls: [
      ...set.controls,
      ...(hasPhantom ? [onOff(`phantom-${channel}`, powerName(input, channel))] : []),
    ],
    port: inputPort(channel, input, hasPhantom),
    stages: [
      {
        kind: 'gain' as const,
        name: 'Preamplifier',
        gainDb: set.gainDb,
        inputNoiseDbuA: 'unknown' as const,
        inputCeilingDbu: 'unknown' as const,
      },
      ...(level.by === 'itself'
        ? [{ ...automatic, target: -10, minimumGainDb: -20, maximumGainDb: 20 }]
        : []),
    ],
  }
}

const isStereo = (output: Connector) => output === 'mini-3'

const outputPort = (connector: 'mini-3' | 'xlr-3' | 'jack-3'): NonNullable<Made['ports']>[number] => ({
  id: 'out',
  name: 'output',
  direction: 'out',
  connector,
  channels: isStereo(connector) ? 2 : 1,
  balanced: !isStereo(connector),
  impedanceOhm: typical(150, 50),
  toleratesVolts: 10,
})

export function recorderOf(answers: RecorderAnswers): Made {
  const { output, floating } = answers
  const all = inputs(answers.inputs).map((channel) => ({ channel, ...inputOf(channel, answers) }))
  const buses = output !== 'none' && isStereo(output) ? (['left', 'right'] as const) : (['left'] as const)
  return {
    kind: 'recorder',
    controls: [
      ...all.flatMap(({ controls }) => controls),
      ...(output === 'none'
        ? []
        : levelControl({ by: 'decibels', from: -40, to: 0, step: 1 }, 'output', 'Output level', 0).controls),
    ],
    ports: [...all.map(({ port }) => port), ...(output === 'none' ? [] : [outputPort(output)])],
    strips: [
      ...all.map(({ channel, stages }, at) => ({
        id: `channel-${channel}`,
        from: { port: `in-${channel}` },
        stages: [
          ...stages,
          {
            kind: 'converter-in' as const,
            name: 'Converter',
            fullScaleDbu: 'unknown' as const,
            noiseDbfsA: 'unknown' as const,
          },
          {
            kind: 'recording' as const,
            name: `track ${channel}`,
            track: channel,
            ...(floating ? { floating } : { bits: 24 }),
          },
        ],
        to: output === 'none' ? [] : [{ bus: buses[at % buses.length]! }],
      })),
      ...(output === 'none'
        ? []
        : buses.map((channel) => ({
            id: `out-${channel}`,
            from: { bus: channel },
            stages: [
              {
                kind: 'digital-gain' as const,
                name: 'Output level',
                gainDb: { control: 'output', perUnit: 1, offset: 0 },
              },
              { kind: 'converter-out' as const, name: 'Converter out', fullScaleDbu: typical(8, 3) },
              {
                kind: 'gain' as const,
                name: 'Output amplifier',
                gainDb: 0,
                outputNoiseDbuA: 'unknown' as const,
              },
            ],
            to: [{ port: 'out', channel }],
          }))),
    ],
  }
}

/** Attenuation from line level to microphone level, dB. */
const toMicDb = 36

export function mixerOf(answers: MixerAnswers): Made {
  const all = inputs(answers.inputs).map((channel) => ({ channel, ...inputOf(channel, answers) }))
  const sides = isStereo(answers.output) ? (['left', 'right'] as const) : (['left'] as const)
  // a preamplifier keeps two inputs apart where its output can; a mixer mixes
  const apart = answers.kind === 'preamplifier' && sides.length === 2 && all.length > 1
  return {
    kind: answers.kind,
    controls: all.flatMap(({ controls }) => controls),
    ports: [...all.map(({ port }) => port), outputPort(answers.output)],
    strips: [
      ...all.map(({ channel, stages }, at) => ({
        id: `channel-${channel}`,
        from: { port: `in-${channel}` },
        stages,
        to: apart ? [{ bus: sides[at % 2]! }] : sides.map((bus) => ({ bus })),
      })),
      ...sides.map((channel) => ({
        id: `out-${channel}`,
        from: { bus: channel },
        stages: [
          {
            kind: 'gain' as const,
            name: 'Output amplifier',
            gainDb: 0,
            outputNoiseDbuA: 'unknown' as const,
            outputCeilingDbu: 'unknown' as const,
          },
          ...(answers.outputLevel === 'mic'
            ? [
                {
                  kind: 'pad' as const,
                  name: 'Output pad',
                  lossDb: toMicDb,
                  outputNoiseDbuA: typical(-119, 3),
                },
              ]
            : []),
        ],
        to: [{ port: 'out', channel }],
      })),
    ],
  }
}
