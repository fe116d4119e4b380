import { describe, expect, it } from 'vitest'
import { balancedInput, cable, dynamic, first, stereoInput } from '../tests/links'
import type { InputPort, OutputPort, Piece, PluggedLink } from './index'
import { isBalanced } from './impedance'
import { networkAt } from './solve'
import { variantsOf } from './variants'

/** Every figure here is worked out with dividers and one-pole corners. */

const db = (ratio: number) => 20 * Math.log10(ratio)
const beside = (one: number, other: number) => (one * other) / (one + other)

const singleEnded = (ohm: number, more: Partial<OutputPort> = {}): OutputPort => ({
  name: 'Player',
  shape: 'mini-3',
  gender: 'plug',
  channels: [
    { signal: 'left', drive: 'single-ended', hot: 'tip', ohm },
    { signal: 'right', drive: 'single-ended', hot: 'ring', ohm },
  ],
  ground: ['sleeve'],
  ...more,
})
const symmetric = (ohm: number): OutputPort => ({
  ...dynamic,
  channels: [{ signal: 'mix', drive: 'symmetric', hot: '2', cold: '3', ohm }],
})
const straight = (output: OutputPort, input: InputPort, more: Partial<PluggedLink> = {}): PluggedLink => ({
  output,
  pieces: [],
  inputs: [input],
  ...more,
})
/** A lead with something in each leg of an XLR. */
const legs = (hotOhm: number, coldOhm: number): Piece => ({
  ...cable('xlr-3', 0),
  wires: [
    [
      { end: 0, contact: '1' },
      { end: 1, contact: '1' },
    ],
  ],
  parts: [
    { kind: 'resistor', from: { end: 0, contact: '2' }, to: { end: 1, contact: '2' }, ohm: hotOhm },
    { kind: 'resistor', from: { end: 0, contact: '3' }, to: { end: 1, contact: '3' }, ohm: coldOhm },
  ],
})

describe('what reaches an input', () => {
  it('is what the divider leaves, on its own side and the right way up', () => {
    const { reaches, legs: worked, loads } = first(straight(singleEnded(150), stereoInput(3000)))
    const left = reaches.find(({ channel, signal }) => channel === 'left' && signal === 'left')!
    expect(left).toMatchObject({ db: expect.closeTo(db(3000 / 3150), 6), sign: 1, commonDb: -Infinity })
    expect([left.trebleDb, left.bassDb, left.cornerHz, left.bassCornerHz]).toEqual([
      expect.closeTo(0, 9),
      expect.closeTo(0, 9),
      undefined,
      undefined,
    ])
    const across = reaches.find(({ channel, signal }) => channel === 'right' && signal === 'left')!
    expect(across.db).toBeLessThan(-100)
    expect(worked.map(({ signal, leg, sourceOhm, loadOhm }) => [signal, leg, sourceOhm, loadOhm])).toEqual([
      ['left', 'hot', 150, expect.closeTo(3000, 3)],
      ['right', 'hot', 150, expect.closeTo(3000, 3)],
    ])
    expect(loads).toEqual([{ input: 0, share: 1 }])
  })
  it('falls with capacitance as one pole does, relative to 1 kHz', () => {
    const farad = 20e-9
    const input = {
      ...stereoInput(10_000),
      channels: [{ id: 'left', hot: 'tip' as const, ohm: 10_000, farad }],
    }
    const [reach] = first(straight(singleEnded(1000), input)).reaches as [
      ReturnType<typeof first>['reaches'][0],
    ]
    const poleHz = 1 / (2 * Math.PI * beside(1000, 10_000) * farad)
    const powerAt = (hz: number) => 1 / (1 + (hz / poleHz) ** 2)
    expect(reach.trebleDb).toBeCloseTo(10 * Math.log10(powerAt(10_000) / powerAt(1000)), 6)
    // half of what is left at 1 kHz
    expect(reach.cornerHz! / (poleHz * Math.sqrt(2 * (1 + (1000 / poleHz) ** 2) - 1))).toBeCloseTo(1, 5)
    expect(reach.bassDb).toBeCloseTo(10 * Math.log10(powerAt(100) / powerAt(1000)), 6)
    expect(reach.bassCornerHz).toBeUndefined()
  })
  it('loses its bass behind a capacitor as one pole does', () => {
    const blocked: Piece = {
      ...cable('mini-3', 0, 'socket', 'plug'),
      wires: [
        [
          { end: 0, contact: 'sleeve' },
          { end: 1, contact: 'sleeve' },
        ],
      ],
      parts: [
        { kind: 'capacitor', from: { end: 0, contact: 'tip' }, to: { end: 1, contact: 'tip' }, farad: 1e-6 },
      ],
    }
    const { reaches } = first(straight(singleEnded(100), stereoInput(900), { pieces: [blocked] }))
    const reach = reaches.find(({ channel, signal }) => channel === 'left' && signal === 'left')!
    const poleHz = 1 / (2 * Math.PI * 1000 * 1e-6)
    const powerAt = (hz: number) => 1 / (1 + (poleHz / hz) ** 2)
    expect(reach.bassDb).toBeCloseTo(10 * Math.log10(powerAt(100) / powerAt(1000)), 5)
    // 1 + (pole / f)^2 is twice what it is at 1 kHz
    expect(reach.bassCornerHz! / (poleHz / Math.sqrt(2 * (1 + (poleHz / 1000) ** 2) - 1))).toBeCloseTo(1, 5)
    expect(reach.cornerHz).toBeUndefined()
  })
  it('stands on both legs alike where one hangs on ground', () => {
    const output: OutputPort = {
      ...dynamic,
      channels: [{ signal: 'a', drive: 'single-ended', hot: '2', ohm: 100 }],
      ground: ['1', '3'],
    }
    const [one] = first(straight(output, balancedInput(10_000, 1e6))).reaches
    expect(one!.commonDb).toBeCloseTo(db((0.5 * 10_000) / 10_100), 2)
    expect(one!.db).toBeCloseTo(db(10_000 / 10_100), 2)
    const [both] = first(straight(symmetric(100), balancedInput(10_000, 1e6))).reaches
    expect(both!.commonDb).toBeLessThan(-100)
    // turned round it arrives upside down
    const crossed: Piece = {
      ...cable('xlr-3', 0),
      wires: [
        [
          { end: 0, contact: '2' },
          { end: 1, contact: '3' },
        ],
        [
          { end: 0, contact: '3' },
          { end: 1, contact: '2' },
        ],
        [
          { end: 0, contact: '1' },
          { end: 1, contact: '1' },
        ],
      ],
    }
    expect(
      first(straight(symmetric(100), balancedInput(10_000), { pieces: [crossed] })).reaches[0]!.sign,
    ).toBe(-1)
  })
  it('is shared by what hangs on one output, by their ohms', () => {
    const splitter: Piece = {
      id: 'splitter',
      name: 'splitter',
      ends: [
        { shape: 'mini-3', gender: 'socket' },
        { shape: 'mini-3', gender: 'plug' },
        { shape: 'mini-3', gender: 'plug' },
      ],
      wires: (['tip', 'ring', 'sleeve'] as const).flatMap((contact) =>
        [1, 2].map(
          (end) =>
            [
              { end: 0, contact },
              { end, contact },
            ] as const,
        ),
      ),
    }
    const { loads, legs: worked } = first({
      output: singleEnded(50),
      pieces: [splitter],
      inputs: [stereoInput(3000), stereoInput(1000)],
    })
    expect(loads).toEqual([
      { input: 0, share: expect.closeTo(0.25, 4) },
      { input: 1, share: expect.closeTo(0.75, 4) },
    ])
    expect(worked[0]!.loadOhm).toBeCloseTo(750, 1)
  })
})

describe('what a leg works into', () => {
  it('is half of what lies between the legs for each of a symmetric output', () => {
    const { legs: worked } = first(straight(symmetric(100), balancedInput(10_000, 1e9)))
    expect(worked.map(({ leg, contact, loadOhm }) => [leg, contact, Math.round(loadOhm)])).toEqual([
      ['hot', '2', 5000],
      ['cold', '3', 5000],
    ])
  })
  it('is all of it for one that floats, and has no end where nothing is', () => {
    const [coil] = first(straight(dynamic, balancedInput(3000, 1e9))).legs
    expect(coil).toMatchObject({ sourceOhm: 300, loadOhm: expect.closeTo(3000, 1) })
    const open = {
      ...balancedInput(Infinity),
      channels: [{ id: 'one', hot: '2' as const, cold: '3' as const, ohm: Infinity }],
    }
    expect(first(straight(dynamic, open)).legs[0]!.loadOhm).toBeGreaterThan(1e8)
  })
})

describe('legs that are balanced', () => {
  const isEven = (hotOhm: number, coldOhm: number) => {
    const link = straight(symmetric(100), balancedInput(1e6, 1e9), { pieces: [legs(hotOhm, coldOhm)] })
    const found = variantsOf(link)
    if ('misfit' in found) throw new Error(found.misfit.at)
    return isBalanced(networkAt(found.variants[0]!.netlist, 1000), 0, link.inputs[0]!.channels[0]!)
  }
  it('see the same to within a tenth of the larger', () => {
    expect(isEven(900, 1000)).toBe(true)
    expect(isEven(900, 891)).toBe(true)
    // 1000 and 1095 ohm to ground, 1000 and 1120
    expect(isEven(900, 995)).toBe(true)
    expect(isEven(1020, 900)).toBe(false)
    expect(isEven(900, 1020)).toBe(false)
  })
})

describe('what is joined', () => {
  const bridged = (ohm: number): Piece => ({
    ...cable('mini-3', 0),
    parts: [{ kind: 'resistor', from: { end: 0, contact: 'tip' }, to: { end: 0, contact: 'ring' }, ohm }],
  })
  it('is under an ohm from contact to contact', () => {
    const joined = (ohm: number) =>
      first(straight(singleEnded(100), stereoInput(3000), { pieces: [bridged(ohm)] })).joined
    expect(joined(0.9)).toEqual([['tip', 'ring']])
    expect(joined(1.1)).toEqual([])
    expect(joined(100)).toEqual([])
  })
})

describe('DC of a supply', () => {
  const plugIn = { name: 'plug-in power', volts: 2.5, ohm: 2200, contacts: ['tip' as const] }
  it('pushes a current into a single-ended output', () => {
    const { outputDc, supplies, inputDc } = first(straight(singleEnded(300), stereoInput(1e9, [plugIn])))
    const amperes = 2.5 / 2500
    expect(outputDc).toEqual([
      { contact: 'tip', volts: expect.closeTo(300 * amperes, 4), amperes: expect.closeTo(amperes, 6) },
      { contact: 'ring', volts: expect.closeTo(0, 6), amperes: expect.closeTo(0, 9) },
    ])
    expect(supplies).toMatchObject([
      { openVolts: 2.5, volts: expect.closeTo(300 * amperes, 4), amperes: expect.closeTo(amperes, 6) },
    ])
    // on the contact that it feeds itself nothing is foreign
    expect(inputDc.map(({ contact }) => contact)).toEqual(['ring'])
  })
  it('flows through what wants it, and nothing flows into what it drives with', () => {
    const needs = [
      {
        name: 'capsule',
        contacts: ['tip' as const],
        minimumVolts: 1,
        typicalVolts: 1.5,
        typicalAmperes: 0.0005,
      },
    ]
    const { needs: met, outputDc } = first(straight(singleEnded(300, { needs }), stereoInput(1e9, [plugIn])))
    // 1.5 V at 0.5 mA are 3 kohm
    const volts = (2.5 * 3000) / 5200
    expect(met).toMatchObject([{ name: 'capsule', minimumVolts: 1, volts: expect.closeTo(volts, 4) }])
    expect(outputDc[0]!.amperes).toBeCloseTo(volts / 3000, 6)
  })
  const phantom = { name: 'phantom power', volts: 48, ohm: 6800, contacts: ['2' as const, '3' as const] }
  it.each(['symmetric', 'impedance-balanced'] as const)(
    'powers a condenser that drives its legs against ground: %s',
    (drive) => {
      const needs = [
        {
          name: 'its amplifier',
          contacts: phantom.contacts,
          minimumVolts: 30,
          typicalVolts: 42,
          typicalAmperes: 0.003,
        },
      ]
      const condenser: OutputPort = {
        ...dynamic,
        needs,
        channels: [{ signal: 'capsule', drive, hot: '2', cold: '3', ohm: 60 }],
      }
      const {
        needs: met,
        outputDc,
        reaches,
      } = first(straight(condenser, balancedInput(3000, 1e6, [phantom])))
      // 42 V at 3 mA over two legs are 28 kohm each
      const legOhm = beside(28_000, 1e6)
      const volts = (48 * legOhm) / (legOhm + 6800)
      expect(met).toMatchObject([{ minimumVolts: 30, volts: expect.closeTo(volts, 3) }])
      for (const { contact, amperes } of outputDc)
        expect([contact, amperes]).toEqual([contact, expect.closeTo(volts / 28_000, 6)])
      expect(reaches[0]!.sign).toBe(1)
      expect(reaches[0]!.db).toBeGreaterThan(-1)
    },
  )
  it('drives nothing through a coil that both legs lift alike', () => {
    const { outputDc } = first(straight(dynamic, balancedInput(1e9, undefined, [phantom])))
    for (const { volts, amperes } of outputDc) {
      expect(volts).toBeCloseTo(48, 1)
      expect(amperes).toBeCloseTo(0, 6)
    }
    const { outputDc: halved } = first(
      straight(dynamic, balancedInput(1e9, undefined, [{ ...phantom, contacts: ['2'] }]), {
        pieces: [grounded],
      }),
    )
    // from pin 2 through the coil of 300 ohm to ground
    expect(halved.find(({ contact }) => contact === '2')).toMatchObject({
      amperes: expect.closeTo(48 / 7100, 5),
    })
    expect(halved.find(({ contact }) => contact === '3')).toMatchObject({
      amperes: expect.closeTo(-48 / 7100, 5),
    })
  })
  /** Pin 3 tied to ground at the plug of the input. */
  const grounded: Piece = {
    ...cable('xlr-3', 0),
    wires: [
      ...cable('xlr-3', 0).wires,
      [
        { end: 1, contact: '3' },
        { end: 1, contact: '1' },
      ],
    ],
  }
  it('flows into each leg of a symmetric output by its own ohms', () => {
    const { outputDc } = first(straight(symmetric(200), balancedInput(1e9, undefined, [phantom])))
    for (const { volts, amperes } of outputDc) {
      expect(volts).toBeCloseTo((48 * 200) / 7000, 4)
      expect(amperes).toBeCloseTo(48 / 7000, 6)
    }
  })
})
