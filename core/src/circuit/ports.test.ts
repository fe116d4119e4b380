import { describe, expect, it } from 'vitest'
import { Gear, type GearInput, type Port, known } from '../model'
import { contactRolesOf, halfOf, inputOf, outputOf } from './ports'

type PortInput = NonNullable<GearInput['ports']>[number]
/** A thing with one port, both its channels on strips of their own unless `mono`. */
const thing = (
  port: Partial<PortInput> & Pick<PortInput, 'direction' | 'connector'>,
  { kind = 'mixer', mono = false }: { kind?: GearInput['kind']; mono?: boolean } = {},
): { gear: Gear; port: Port } => {
  const other: PortInput = { id: 'other', name: 'other', direction: 'in', connector: 'fixed' }
  const gear = Gear.parse({
    id: 'thing',
    name: 'Thing',
    maker: 'Tarnwick',
    kind,
    ports: [{ id: 'port', name: 'port', ...port }, other],
    strips:
      port.direction === 'out'
        ? ['left', 'right'].map((channel) => ({
            id: channel,
            from: { port: 'other' },
            stages: [{ kind: 'gain', gainDb: 0 }],
            to:
              mono && channel === 'right'
                ? []
                : mono
                  ? [
                      { port: 'port', channel: 'left' },
                      { port: 'port', channel: 'right' },
                    ]
                  : [{ port: 'port', channel }],
          }))
        : [],
  })
  return { gear, port: known(gear.ports[0], 'port') }
}
const output = (...args: Parameters<typeof thing>) => {
  const { gear, port } = thing(...args)
  return outputOf(port, gear, 'Out', port.connector as never)
}
const input = (...args: Parameters<typeof thing>) => {
  const { gear, port } = thing(...args)
  return inputOf(port, gear, 'In', port.connector as never, () => undefined)
}

describe('an output by its connector', () => {
  it('has its sound on pin 2 against pin 3, floating from a microphone, driven on both legs from anything else', () => {
    const xlr = { direction: 'out', connector: 'xlr-3', impedanceOhm: 150, balanced: true } as const
    expect(output(xlr).channels).toEqual([
      { signal: 'Out', drive: 'symmetric', hot: '2', cold: '3', ohm: 150 },
    ])
    expect(output(xlr, { kind: 'microphone' }).channels[0]!.drive).toBe('floating')
    expect(output({ ...xlr, balanced: false }).channels[0]).toMatchObject({
      drive: 'single-ended',
      cold: undefined,
    })
    expect(output({ ...xlr, drive: 'impedance-balanced' }).channels[0]).toMatchObject({
      drive: 'impedance-balanced',
      cold: '3',
    })
    expect(output(xlr).ground).toEqual(['1'])
  })
  it('has two channels on tip and ring where two strips drive them, one signal twice where one does', () => {
    const jack = { direction: 'out', connector: 'jack-3', channels: 2, impedanceOhm: 50 } as const
    expect(output(jack).channels.map(({ signal, hot, ohm }) => [signal, hot, ohm])).toEqual([
      ['left', 'tip', 50],
      ['right', 'ring', 50],
    ])
    expect(output(jack, { mono: true }).channels.map(({ signal }) => signal)).toEqual(['Out', 'Out'])
    expect(output({ ...jack, channels: 1 }).channels.map(({ hot }) => hot)).toEqual(['tip'])
    expect(output({ ...jack, channels: 1, balanced: true }).channels).toMatchObject([
      { hot: 'tip', cold: 'ring' },
    ])
    expect(output({ ...jack, connector: 'jack-2' }).channels.map(({ hot }) => hot)).toEqual(['tip'])
  })
  it('counts an impedance as nothing where none is said, as 150 ohm where it is unknown', () => {
    const jack = { direction: 'out', connector: 'jack-2' } as const
    expect(output(jack).channels[0]!.ohm).toBe(0)
    expect(output({ ...jack, impedanceOhm: 'unknown' }).channels[0]!.ohm).toBe(150)
  })
  it('carries both channels of a stream on three pins, its impedance over both legs', () => {
    const stream = {
      direction: 'out',
      connector: 'xlr-3',
      channels: 2,
      impedanceOhm: 110,
      digital: { ratesHz: [48_000], clock: 'own' },
    } satisfies Parameters<typeof thing>[0]
    expect(output(stream).channels).toEqual([
      { signal: 'Out', drive: 'symmetric', hot: '2', cold: '3', ohm: 55 },
    ])
    expect(
      output({ ...stream, connector: 'usb-c' }).channels.map(({ signal, hot }) => [signal, hot]),
    ).toEqual([
      ['left', 'data left'],
      ['right', 'data right'],
    ])
  })
})

describe('an input by its connector', () => {
  it('hears between pins 2 and 3, or with pin 3 on ground where it is not balanced', () => {
    const xlr = { direction: 'in', connector: 'xlr-3', impedanceOhm: 3000, balanced: true } as const
    expect(input(xlr)).toMatchObject({
      channels: [{ id: 'one', hot: '2', cold: '3', ohm: 3000 }],
      ground: ['1'],
    })
    expect(input({ ...xlr, balanced: false })).toMatchObject({
      channels: [{ cold: undefined }],
      ground: ['1', '3'],
    })
  })
  it('has its capacitance in farad, its impedance unknown as 5 kohm, none as none', () => {
    const jack = { direction: 'in', connector: 'jack-3', channels: 2 } as const
    expect(input({ ...jack, impedanceOhm: 'unknown', capacitancePf: 120 }).channels).toEqual([
      { id: 'left', hot: 'tip', ohm: 5000, farad: expect.closeTo(1.2e-10, 15) },
      { id: 'right', hot: 'ring', ohm: 5000, farad: expect.closeTo(1.2e-10, 15) },
    ])
    expect(input(jack).channels[0]!.ohm).toBe(Infinity)
    expect(input({ ...jack, channels: 1, commonModeOhm: 47_000 }).channels[0]!.commonModeOhm).toBe(47_000)
  })
})

describe('plugs and sockets', () => {
  const genderOf = (...args: Parameters<typeof thing>) => {
    const { gear, port } = thing(...args)
    return halfOf(port, gear)?.gender
  }
  it('hang on leads of microphones and headphones, and sit in boxes; what gives sound over XLR has the pins', () => {
    expect(genderOf({ direction: 'out', connector: 'mini-3' }, { kind: 'microphone' })).toBe('plug')
    expect(genderOf({ direction: 'in', connector: 'mini-3' }, { kind: 'headphones' })).toBe('plug')
    expect(genderOf({ direction: 'out', connector: 'mini-3' })).toBe('socket')
    expect(genderOf({ direction: 'out', connector: 'xlr-3' })).toBe('plug')
    expect(genderOf({ direction: 'in', connector: 'xlr-3' })).toBe('socket')
    expect(genderOf({ direction: 'out', connector: 'mini-3', gender: 'plug' })).toBe('plug')
    expect(genderOf({ direction: 'in', connector: 'air' })).toBeUndefined()
  })
})

describe('what a contact is for', () => {
  const roles = (...args: Parameters<typeof thing>) => {
    const { gear, port } = thing(...args)
    return contactRolesOf(port, gear).map(({ contact, kind, role }) => `${contact}: ${kind} ${role}`)
  }
  it('is said for every contact, power included', () => {
    const supplies = [
      { name: 'plug-in power', volts: 2.5, ohm: 2200, contacts: ['tip' as const, 'ring' as const] },
    ]
    expect(roles({ direction: 'in', connector: 'mini-3', channels: 2, supplies })).toEqual([
      'tip: signal left, gives 2.5 V',
      'ring: signal right, gives 2.5 V',
      'sleeve: ground ground',
    ])
    const needs = [
      {
        name: 'capsule',
        contacts: ['tip' as const],
        minimumVolts: 1,
        typicalVolts: 1.5,
        typicalAmperes: 0.0003,
      },
    ]
    expect(
      roles({ direction: 'out', connector: 'mini-3', channels: 1, needs }, { kind: 'microphone' }),
    ).toEqual(['tip: signal sound, wants 1 V', 'ring: nothing free', 'sleeve: ground ground'])
    expect(roles({ direction: 'in', connector: 'xlr-3', balanced: true })).toEqual([
      '1: ground ground',
      '2: signal sound',
      '3: cold second leg',
    ])
    const digital = { ratesHz: [48_000], clock: 'own' as const }
    expect(roles({ direction: 'in', connector: 'xlr-3', channels: 2, digital })[1]).toBe('2: signal stream')
    expect(roles({ direction: 'in', connector: 'air' })).toEqual([])
  })
})
