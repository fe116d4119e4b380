import { describe, expect, it } from 'vitest'
import type { CircuitFinding, Find } from '../findings'
import { cable, dynamic, balancedInput, stereoInput } from '../tests/links'
import type { Facts } from './facts'
import { findOnOutput } from './findings-of-outputs'
import { findOnPower, starves } from './findings-of-power'
import { findOnSound, findOnStreams } from './findings-of-sound'
import { findHum, humDbuA, runLengthM } from './hum'
import type { InputPort, PluggedLink } from './link'

/** What the rules are asked about: facts are made up here, and need not follow from the link. */
const mono: PluggedLink = { output: dynamic, pieces: [cable('xlr-3', 2)], inputs: [balancedInput(3000)] }
const stereo: PluggedLink = { ...mono, inputs: [stereoInput(3000)] }

const reachOf = (more: Partial<Facts['reaches'][number]> = {}): Facts['reaches'][number] => ({
  input: 0,
  channel: 'one',
  signal: 'voice',
  db: -1,
  sign: 1,
  commonDb: -Infinity,
  trebleDb: 0,
  bassDb: 0,
  cornerHz: undefined,
  bassCornerHz: undefined,
  ...more,
})
const nothing: Facts = {
  reaches: [],
  legs: [],
  openLegs: [],
  openOutputContacts: [],
  outputDc: [],
  supplies: [],
  needs: [],
  inputDc: [],
  loads: [],
  backwards: [],
  streams: [],
  balanced: [],
  joined: [],
}
type Rule = (link: PluggedLink, facts: Facts, find: Find) => void
function found(rule: Rule, facts: Partial<Facts>, link = mono): CircuitFinding[] {
  const list: CircuitFinding[] = []
  rule(link, { ...nothing, ...facts }, (severity, code, subject, figures) =>
    list.push({ severity, code, subject, figures } as CircuitFinding),
  )
  return list
}
const briefly = (rule: Rule, facts: Partial<Facts>, link = mono) =>
  found(rule, facts, link).map(({ severity, code }) => `${severity} ${code}`)

describe('what arrives', () => {
  const silent = (more: Partial<Facts>, link = mono) =>
    found(findOnSound, { reaches: [reachOf({ db: -90 })], ...more }, link)
  it('is sound over 60 dB under its source, leakage below', () => {
    expect(briefly(findOnSound, { reaches: [reachOf({ db: -59.9 })] })).toEqual([])
    expect(briefly(findOnSound, { reaches: [reachOf({ db: -60.1 })] })).toEqual(['dead dead'])
  })
  it('is missed for the first of these reasons that there is', () => {
    const leg = { input: 0, channel: 'one', leg: 'cold' as const, contact: '3' as const }
    const all: Partial<Facts> = {
      backwards: [0],
      openOutputContacts: ['2'],
      joined: [['2', '3']],
      openLegs: [leg],
    }
    const cause = (more: Partial<Facts>) => silent(more)[0]
    expect(cause(all)).toMatchObject({
      code: 'wrong way round',
      figures: { cause: { kind: 'converter reversed' } },
    })
    expect(cause({ ...all, backwards: [], streams: [0] })).toMatchObject({
      code: 'stream',
      figures: { cause: { kind: 'other kind', takesStream: false } },
    })
    expect(cause({ ...all, backwards: [] })).toMatchObject({
      code: 'open leg',
      figures: { cause: { kind: 'input open', contacts: ['3'] } },
    })
    expect(cause({ ...all, backwards: [1], openLegs: [{ ...leg, input: 1 }] })).toMatchObject({
      code: 'open leg',
      figures: { cause: { kind: 'output open', contacts: ['2'] } },
    })
    expect(cause({ joined: [['2', '3']] })).toMatchObject({
      code: 'dead',
      figures: { cause: { kind: 'contacts joined', pairs: [['2', '3']] } },
    })
    expect(cause({})).toMatchObject({ code: 'dead', figures: { cause: { kind: 'no contact' } } })
  })
  it('cancels where both legs carry it alike', () => {
    const alike = [reachOf({ db: -90, commonDb: -6 })]
    expect(found(findOnSound, { reaches: alike })[0]).toMatchObject({
      code: 'cancelled',
      figures: { cause: { kind: 'both legs alike', commonDb: -6 } },
    })
    expect(found(findOnSound, { reaches: [reachOf({ db: -90, commonDb: -61 })] })[0]).toMatchObject({
      code: 'dead',
    })
  })
  it('leaves the side of another source silent', () => {
    const reaches = [reachOf({ signal: 'left' }), reachOf({ signal: 'right', db: -90 })]
    expect(found(findOnSound, { reaches })).toMatchObject([
      { severity: 'degraded', code: 'one side', figures: { signal: 'right', arrives: 'left' } },
    ])
  })
  it('is on one side of a stereo input, on both, or upside down on one', () => {
    const sides = (...reaches: Facts['reaches']) => briefly(findOnSound, { reaches }, stereo)
    const [left, right] = [reachOf({ channel: 'left' }), reachOf({ channel: 'right' })]
    expect(sides(left)).toEqual(['degraded one side'])
    expect(sides(left, right)).toEqual(['note both sides'])
    expect(sides(left, { ...right, sign: -1 })).toEqual(['harmful polarity'])
    expect(sides(left, { ...right, db: -1.4 })).toEqual(['note both sides'])
    expect(sides(left, { ...right, db: -1.6 })).toEqual([])
    expect(sides({ ...left, sign: -1 }, { ...right, sign: -1 })).toEqual(['note polarity', 'note both sides'])
    // of two sources each has a side of its own
    expect(sides({ ...left, signal: 'a' }, { ...right, signal: 'b' })).toEqual([])
  })
  it('cancels where two sources meet upside down at one level', () => {
    const meeting = (db: number, sign: 1 | -1) =>
      briefly(findOnSound, { reaches: [reachOf({ signal: 'a' }), reachOf({ signal: 'b', db, sign })] })
    expect(meeting(-1.4, -1)).toEqual(['note polarity', 'harmful cancelled'])
    expect(meeting(-1.6, -1)).toEqual(['note polarity'])
    expect(meeting(-1.4, 1)).toEqual([])
  })
  it('has a leg open while it arrives over the other', () => {
    const openLegs = [{ input: 0, channel: 'one', leg: 'cold' as const, contact: '3' as const }]
    const reaches = [reachOf({ db: -7 }), reachOf({ signal: 'other', db: -3 })]
    expect(found(findOnSound, { reaches, openLegs })[0]).toMatchObject({
      severity: 'degraded',
      code: 'open leg',
      figures: { contacts: ['3'], db: -3 },
    })
    expect(briefly(findOnSound, { reaches, openLegs: [{ ...openLegs[0]!, input: 1 }] })).toEqual([])
  })
  it.each([
    ['trebleDb', 'treble'],
    ['bassDb', 'bass'],
  ] as const)('loses %s from 1 dB on, plainly from 3', (field, code) => {
    const lost = (db: number) => briefly(findOnSound, { reaches: [reachOf({ [field]: db })] })
    expect(lost(-0.9)).toEqual([])
    expect(lost(-1.1)).toEqual([`note ${code}`])
    expect(lost(-2.9)).toEqual([`note ${code}`])
    expect(lost(-3.1)).toEqual([`degraded ${code}`])
  })
  it('is looked at only on inputs that are asked about', () => {
    const two = { ...mono, inputs: [...mono.inputs, balancedInput(3000)], asked: 1 }
    expect(briefly(findOnSound, { reaches: [reachOf(), reachOf({ input: 1, trebleDb: -9 })] }, two)).toEqual(
      [],
    )
  })
})

describe('streams', () => {
  const digital = (ratesHz: number[], clock: 'own' | 'follows' | 'either') => ({ ratesHz, clock })
  const between = (
    gives: ReturnType<typeof digital> | undefined,
    takes: ReturnType<typeof digital> | undefined,
    db = -1,
  ) =>
    briefly(
      findOnStreams,
      { reaches: [reachOf({ db })] },
      {
        ...mono,
        output: { ...dynamic, digital: gives },
        inputs: [{ ...balancedInput(3000), digital: takes } as InputPort],
      },
    )
  it('want a rate in common, and one clock', () => {
    expect(between(digital([44_100, 48_000], 'own'), digital([48_000], 'follows'))).toEqual([])
    expect(between(digital([44_100], 'own'), digital([48_000], 'follows'))).toEqual(['dead rate'])
    expect(between(digital([48_000], 'own'), digital([48_000], 'own'))).toEqual(['degraded clock'])
    expect(between(digital([48_000], 'follows'), digital([48_000], 'follows'))).toEqual(['dead clock'])
    expect(between(digital([48_000], 'either'), digital([48_000], 'either'))).toEqual([])
    expect(between(digital([44_100], 'own'), undefined)).toEqual([])
    expect(between(undefined, digital([44_100], 'own'))).toEqual([])
    expect(between(digital([44_100], 'own'), digital([48_000], 'own'), -90)).toEqual([])
  })
})

describe('what a link does to the output', () => {
  const leg = (loadOhm: number, more: Partial<Facts['legs'][number]> = {}) => ({
    signal: 'voice',
    leg: 'hot' as const,
    contact: '2' as const,
    sourceOhm: 100,
    loadOhm,
    ...more,
  })
  it.each([
    [1.9, ['harmful shorted output']],
    [2.1, ['degraded overloaded output']],
    [99, ['degraded overloaded output']],
    [101, []],
  ])('with %f ohm behind a leg of 100: %j', (loadOhm, expected) => {
    expect(briefly(findOnOutput, { legs: [leg(loadOhm)] })).toEqual(expected)
  })
  it('costs what a divider does, and names what takes most', () => {
    expect(found(findOnOutput, { legs: [leg(50)] })[0]!.figures).toMatchObject({
      lossDb: expect.closeTo(20 * Math.log10(1 / 3), 9),
      shared: false,
      heaviest: undefined,
    })
    const two = {
      ...mono,
      inputs: [
        { ...balancedInput(3000), name: 'one' },
        { ...balancedInput(30), name: 'phones' },
      ],
    }
    const loads = [
      { input: 0, share: 0.1 },
      { input: 1, share: 0.9 },
    ]
    expect(found(findOnOutput, { legs: [leg(50)], loads }, two)[0]!.figures).toMatchObject({
      shared: true,
      heaviest: { name: 'phones', share: 0.9 },
    })
  })
  it('halves the level where the second leg drives a short', () => {
    const signal = dynamic.channels[0]!.signal
    const half = (loadOhm: number, db: number) =>
      briefly(findOnOutput, {
        legs: [leg(1e4, { signal }), leg(loadOhm, { signal, leg: 'cold', contact: '3' })],
        reaches: [reachOf({ signal, db })],
      }).filter((each) => each === 'note half level').length
    expect([half(1.9, -5.1), half(1.9, -4.9), half(2.1, -5.1), half(1.9, -61)]).toEqual([1, 0, 0, 0])
  })
})

describe('power', () => {
  const need = (volts: number) => ({ name: 'its amplifier', minimumVolts: 10, volts })
  it.each([
    [1.9, ['dead supply missing']],
    [2.1, ['degraded supply weak']],
    [9.9, ['degraded supply weak']],
    [10, []],
  ])('of %f V where 10 are wanted: %j', (volts, expected) => {
    expect(briefly(findOnPower, { needs: [need(volts)] })).toEqual(expected)
    expect(starves(need(volts))).toBe(volts < 2)
  })
  it('into ground is a waste, and harm from 12 V on', () => {
    const shorted = (openVolts: number, volts: number) =>
      briefly(findOnPower, {
        supplies: [{ input: 0, name: 'supply', contact: '2', openVolts, volts, amperes: 0.01 }],
      })
    expect(shorted(12, 0.23)).toEqual(['degraded supply shorted'])
    expect(shorted(12, -0.23)).toEqual(['degraded supply shorted'])
    expect(shorted(12, 0.25)).toEqual([])
    expect(shorted(12.1, 0.2)).toEqual(['harmful supply shorted'])
  })
  /** DC on a single-ended output that tolerates so much. */
  const onOutput = (volts: number, toleratesVolts?: number, more: Partial<PluggedLink['output']> = {}) =>
    briefly(
      findOnPower,
      { outputDc: [{ contact: '2', volts, amperes: 0.001 }] },
      {
        ...mono,
        output: {
          ...dynamic,
          channels: [{ signal: 'a', drive: 'single-ended', hot: '2', ohm: 100 }],
          toleratesVolts,
          ...more,
        },
      },
    )
  it('on an output is left alone up to 50 mV, does harm from 3 V or five times what it tolerates', () => {
    expect(onOutput(0.04)).toEqual([])
    expect(onOutput(-0.06)).toEqual(['degraded foreign supply'])
    expect(onOutput(2.9)).toEqual(['degraded foreign supply'])
    expect(onOutput(-3.1)).toEqual(['harmful foreign supply'])
    expect(onOutput(0.3, 0.4)).toEqual([])
    expect(onOutput(0.9, 0.2)).toEqual(['degraded foreign supply'])
    expect(onOutput(1.1, 0.2)).toEqual(['harmful foreign supply'])
    expect(onOutput(4.9, 5)).toEqual([])
    expect(onOutput(5.1, 5)).toEqual(['harmful foreign supply'])
    // what wants power is no foreigner's victim
    const needs = [
      { name: 'n', contacts: ['2' as const], minimumVolts: 1, typicalVolts: 2, typicalAmperes: 0.001 },
    ]
    expect(onOutput(9, undefined, { needs })).toEqual([])
  })
  it('is not felt by a coil whose legs share it, but across it', () => {
    const coil = (hot: number, cold: number) =>
      found(findOnPower, {
        outputDc: [
          { contact: '2', volts: hot, amperes: 0 },
          { contact: '3', volts: cold, amperes: 0 },
        ],
      })
    expect(coil(48, 48)).toEqual([])
    const ohm = dynamic.channels[0]!.ohm
    expect(coil(48, 47)).toMatchObject([
      { figures: { contact: '2', volts: 1, amperes: expect.closeTo(1 / ohm, 9) } },
    ])
  })
  it('on an input is tolerated up to 10 V, or what it says; harm from 3 V', () => {
    const onInput = (volts: number, toleratesVolts?: number) =>
      briefly(
        findOnPower,
        { inputDc: [{ input: 0, contact: '2', volts }] },
        {
          ...mono,
          inputs: [{ ...balancedInput(3000), toleratesVolts }],
        },
      )
    expect(onInput(9.9)).toEqual([])
    expect(onInput(-10.1)).toEqual(['harmful foreign supply'])
    expect(onInput(2.9, 1)).toEqual(['degraded foreign supply'])
    expect(onInput(3.1, 1)).toEqual(['harmful foreign supply'])
  })
})

describe('hum', () => {
  const open = [{ input: 0, channel: 'one', balanced: false }]
  const run = (lengthM: number) => ({ ...mono, pieces: [cable('xlr-3', lengthM)] })
  it('is picked up by what is not balanced, worth more than a note over 3 m', () => {
    expect(briefly(findHum, { balanced: open }, run(3))).toEqual(['note unbalanced'])
    expect(briefly(findHum, { balanced: open }, run(3.1))).toEqual(['degraded unbalanced'])
    expect(briefly(findHum, { balanced: open }, run(0))).toEqual([])
    expect(briefly(findHum, { balanced: [{ ...open[0]!, balanced: true }] }, run(9))).toEqual([])
    expect(briefly(findHum, { balanced: open, streams: [0] }, run(9))).toEqual([])
  })
  it('grows with length: 1, 10 or 100 microvolts a metre', () => {
    const dbu = (volts: number) => 20 * Math.log10(volts / 0.774597)
    expect(found(findHum, { balanced: open }, run(4))[0]!.figures).toMatchObject({
      lengthM: 4,
      quietDbu: expect.closeTo(dbu(4e-6), 4),
      nearMainsDbu: expect.closeTo(dbu(40e-6), 4),
      nearMotorsDbu: expect.closeTo(dbu(400e-6), 4),
    })
    // 50 Hz is 30.2 dB down on the A curve
    expect(humDbuA(4)).toBeCloseTo(dbu(4e-6) - 30.2, 0)
    expect(runLengthM({ ...mono, pieces: [cable('xlr-3', 2), cable('xlr-3', 5)] }, 0)).toBe(7)
  })
})
