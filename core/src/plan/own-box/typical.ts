import type { Control, GearInput, Port } from '../../model'

/** A thing being made, as far as its kind decides. */
export type Made = Omit<GearInput, 'id' | 'name' | 'maker'>

/** A switch with two positions, off at first. */
export const onOff = (id: string, label: string): Control => ({
  kind: 'switch',
  id,
  name: label,
  positions: [
    { id: 'off', name: 'off' },
    { id: 'on', name: 'on' },
  ],
  initial: 'off',
})

/** 48 V phantom power by a switch. */
export const phantom = (control: string): NonNullable<Port['supplies']> => [
  { name: 'phantom power', volts: 48, ohm: 6810, contacts: ['2', '3'], when: { control, is: ['on'] } },
]

/** The typical figure of the kind, for one not given. */
export const typical = (value: number, tolerance: number) => ({ value, tolerance, from: 'typical' as const })

/** Automatic gain as small cameras have it. */
export const automatic = {
  kind: 'agc' as const,
  name: 'Automatic gain',
  target: -25,
  minimumGainDb: -15,
  maximumGainDb: 24,
}

/** A microphone input on XLR, with switchable phantom power if it has any. */
export const xlrInput = (channel: string, hasPhantom: boolean): NonNullable<GearInput['ports']>[number] => ({
  id: `in-${channel}`,
  name: `input ${channel}`,
  direction: 'in',
  connector: 'xlr-3',
  balanced: true,
  impedanceOhm: 'unknown',
  ...(hasPhantom && { supplies: phantom(`phantom-${channel}`) }),
})
