import type { z } from 'zod'
import { connectorNames, type Port } from '../../model'
import type { MicrophoneAnswers, Plug } from './answers'
import { type Made, typical } from './typical'

/** Figures of an ordinary microphone by how it is powered, dBV/Pa and ohm. */
const ordinary = {
  phantom: { sensitivityDbvPa: -36, ohm: 150 },
  'plug-in': { sensitivityDbvPa: -40, ohm: 2000 },
  battery: { sensitivityDbvPa: -38, ohm: 200 },
  none: { sensitivityDbvPa: -54, ohm: 300 },
} as const

export function microphoneOf(answers: MicrophoneAnswers): Made {
  const { mount, plug, power, pattern, sensitivityDbvPa, selfNoiseDba, maximumDbSpl } = answers
  const { sensitivityDbvPa: usual, ohm } = ordinary[power]
  const isBalanced = plug === 'xlr-3' || plug === 'jack-3'
  const given = (value: number | undefined, instead: ReturnType<typeof typical>) =>
    value === undefined ? instead : { value, tolerance: 2, from: 'datasheet' as const }
  const contacts = contactsOfPlug(plug)
  const needs =
    power === 'phantom'
      ? { contacts: ['2', '3'], minimumVolts: 11, typicalVolts: 40, typicalAmperes: 0.003 }
      : { contacts: [contacts.left], minimumVolts: 1, typicalVolts: 1.8, typicalAmperes: 0.0003 }
  return {
    kind: 'microphone',
    mount,
    ports: [
      { id: 'air', name: 'front', direction: 'in', connector: 'air' },
      {
        id: 'out',
        name: connectorNames[plug],
        direction: 'out',
        connector: plug,
        balanced: isBalanced,
        impedanceOhm: typical(ohm, ohm / 4),
        ...(contacts.own && { contacts: contacts.own }),
        ...((power === 'phantom' || power === 'plug-in') && {
          needs: [{ name: power === 'phantom' ? 'its electronics' : 'its capsule', ...needs }],
        }),
      },
    ],
    strips: [
      {
        id: 'capsule',
        from: { port: 'air' },
        stages: [
          {
            kind: 'transducer',
            name: 'Capsule',
            sensitivityDbvPa: given(sensitivityDbvPa, typical(usual, 3)),
            selfNoiseDba: given(selfNoiseDba, typical(power === 'plug-in' ? 26 : 18, 4)),
            maximumDbSpl: given(maximumDbSpl, typical(power === 'none' ? 145 : 124, 4)),
            pattern,
          },
        ],
        to: [{ port: 'out' }],
      },
    ],
  }
}

/** Where a small microphone has its signal on a plug, and how that is said where it is not the custom. */
function contactsOfPlug(plug: z.infer<typeof Plug>): {
  left: string
  own?: NonNullable<Port['contacts']>
} {
  switch (plug) {
    case 'mini-4':
      return { left: 'sleeve', own: { left: 'sleeve', ground: ['second ring'] } }
    case 'ta-3':
      return { left: '3', own: { left: '3', ground: ['1'] } }
    case 'xlr-3':
      return { left: '2' }
    default:
      return { left: 'tip' }
  }
}
