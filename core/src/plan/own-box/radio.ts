import type { ReceiverAnswers, TransmitterAnswers } from './answers'
import { levelControl } from './level'
import { type Made, typical } from './typical'

type Stages = NonNullable<Made['strips']>[number]['stages']

/** Digital sets on shared bands hop and take their time to link; analogue ones keep a carrier and are there at once. */
const ways = {
  digital: {
    hops: true,
    widthKhz: 2000,
    powerMw: 10,
    sensitivityDbm: -88,
    linkS: 8,
    delayMs: 7,
    rangeDb: 100,
  },
  analogue: {
    hops: false,
    widthKhz: 200,
    powerMw: 30,
    sensitivityDbm: -95,
    linkS: 1,
    delayMs: 0,
    rangeDb: 100,
  },
} as const

/** Gain that brings an ordinary lapel microphone up to the line level that is sent, dB. */
const inputGainDb = 36
/** Level that fully modulates the transmitter, dBu. */
const airFullDbu = 6
/** Attenuation from that to microphone level, dB. */
const toMicDb = 30

/** The microphone input of a transmitter, with power for small microphones or for those on XLR. */
function microphoneInput({ input, power }: TransmitterAnswers): NonNullable<Made['ports']>[number] {
  const small = input !== 'xlr-3'
  return {
    id: 'in',
    name: 'microphone input',
    direction: 'in',
    connector: input,
    balanced: !small,
    impedanceOhm: 'unknown',
    ...(input === 'ta-3' && { contacts: { left: '3', ground: ['1'] } }),
    ...(power && {
      supplies: [
        small
          ? { name: 'plug-in power', volts: 2.4, ohm: 2200, contacts: [input === 'ta-3' ? '3' : 'tip'] }
          : { name: 'phantom power', volts: 48, ohm: 6810, contacts: ['2', '3'] },
      ],
    }),
  }
}

/** A box that sends digitally or writes to a card has a converter first. */
const converted = (recordsInside: boolean): Stages => [
  {
    kind: 'converter-in',
    name: 'Converter',
    fullScaleDbu: typical(airFullDbu, 2),
    noiseDbfsA: typical(-104, 4),
  },
  ...(recordsInside ? [{ kind: 'recording' as const, name: 'inside', track: 'inside', bits: 24 }] : []),
  { kind: 'converter-out', name: 'To the air', fullScaleDbu: airFullDbu },
]

export function transmitterOf(answers: TransmitterAnswers): Made {
  const { level, over, carrierMhz, recordsInside } = answers
  const { hops, widthKhz, powerMw, linkS } = ways[over]
  const { controls, gainDb } = levelControl(level, 'gain', 'Input gain', inputGainDb)
  const input: Stages = [
    {
      kind: 'gain',
      name: 'Input',
      gainDb,
      inputNoiseDbuA: typical(-112, 4),
      inputCeilingDbu: typical(-18, 4),
    },
    // without a level control it has a limiter for loud sound
    ...(level.by === 'itself'
      ? [{ kind: 'limiter' as const, name: 'Limiter', threshold: airFullDbu - 3, ratio: 10 }]
      : []),
  ]
  return {
    kind: 'radio',
    controls,
    ports: [microphoneInput(answers), { id: 'air', name: 'antenna', direction: 'out', connector: 'radio' }],
    strips: [
      {
        id: 'voice',
        from: { port: 'in' },
        stages: [...input, ...(over === 'digital' || recordsInside ? converted(recordsInside) : [])],
        to: [{ port: 'air' }],
      },
    ],
    radio: { carrierMhz, hops, widthKhz, powerMw, linkS },
  }
}

export function receiverOf(answers: ReceiverAnswers): Made {
  const { output, outputLevel, over, carrierMhz } = answers
  const { hops, widthKhz, sensitivityDbm, linkS, delayMs, rangeDb } = ways[over]
  const both = output === 'mini-3'
  return {
    kind: 'radio',
    controls: levelControl({ by: 'decibels', from: -30, to: 0, step: 6 }, 'output', 'Output level', 0)
      .controls,
    ports: [
      { id: 'air', name: 'antenna', direction: 'in', connector: 'radio' },
      {
        id: 'out',
        name: 'output',
        direction: 'out',
        connector: output,
        channels: both ? 2 : 1,
        balanced: output === 'xlr-3',
        impedanceOhm: typical(100, 40),
        toleratesVolts: 10,
      },
    ],
    strips: [
      {
        id: 'voice',
        from: { port: 'air' },
        stages: [
          {
            kind: 'radio',
            name: 'Air',
            ceilingDbu: typical(airFullDbu, 2),
            dynamicRangeDb: typical(rangeDb, 5),
            delayMs,
          },
          { kind: 'pad', name: 'Output level', lossDb: { control: 'output', perUnit: -1 } },
          {
            kind: 'gain',
            name: 'Output amplifier',
            gainDb: outputLevel === 'mic' ? -toMicDb : 0,
            outputNoiseDbuA: typical(outputLevel === 'mic' ? -112 : -92, 4),
            outputCeilingDbu: typical(outputLevel === 'mic' ? airFullDbu - toMicDb + 3 : airFullDbu + 3, 2),
          },
        ],
        to: both ? [{ port: 'out' }, { port: 'out', channel: 'right' }] : [{ port: 'out' }],
      },
    ],
    radio: { carrierMhz, hops, widthKhz, sensitivityDbm, linkS },
  }
}
