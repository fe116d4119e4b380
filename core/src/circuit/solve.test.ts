import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { ground, type Part, type Piece, type PluggedLink, signalsOf, SingularNetwork, solve } from './index'
import { expectAgrees } from '../tests/expect-circuit'
import { balancedInput, cable, dynamic, first, wiresOf } from '../tests/links'

const nodes = ['a', 'b', 'c', 'd', ground]
const node = fc.constantFrom(...nodes)
const ohm = fc.double({ min: 1, max: 1e6, noNaN: true })
const pair = fc.tuple(node, node).filter(([from, to]) => from !== to)
const passive: fc.Arbitrary<Part> = fc.oneof(
  fc
    .tuple(pair, ohm)
    .map(([[from, to], value]): Part => ({ kind: 'resistor', id: 'r', from, to, ohm: value })),
  fc
    .tuple(pair, fc.double({ min: 1e-12, max: 1e-6, noNaN: true }))
    .map(([[from, to], farad]): Part => ({ kind: 'capacitor', id: 'c', from, to, farad })),
)
/** Coupled windings, and what passes one way only. */
const twoPort: fc.Arbitrary<Part> = fc.oneof(
  fc.tuple(pair, pair, fc.double({ min: 0.1, max: 10, noNaN: true })).map(([one, other, ratio]): Part => ({
    kind: 'transformer',
    id: 't',
    first: one,
    second: other,
    ratio,
    firstOhm: 50,
    secondOhm: 70,
    henry: 10,
    leakageHenry: 0.002,
  })),
  fc.tuple(pair, pair, ohm).map(([one, other, value]): Part => ({
    kind: 'amplifier',
    id: 'a',
    first: one,
    second: other,
    gain: 0.5,
    ohm: value + 1e6,
  })),
)
const source = (signal: string): fc.Arbitrary<Part> =>
  fc
    .tuple(pair, ohm, fc.double({ min: -5, max: 5, noNaN: true }))
    .map(([[from, to], value, volts]): Part => ({
      kind: 'source',
      id: signal,
      from,
      to,
      volts,
      ohm: value,
      signal,
    }))
/** Every node tied to ground by something, so that no answer rests on leakage. */
const tied: Part[] = nodes
  .slice(0, 4)
  .map((from) => ({ kind: 'resistor', id: 't', from, to: ground, ohm: 47_000 }))
const network = fc.array(passive, { maxLength: 8 }).map((parts): Part[] => [...tied, ...parts])
const frequency = fc.constantFrom(100, 1000, 10_000)

describe('the solver', () => {
  it('agrees with modified nodal analysis on 400 networks made at random', () => {
    fc.assert(
      fc.property(
        network,
        fc.array(twoPort, { maxLength: 2 }),
        source('s'),
        fc.constantFrom(0, 100, 1000, 10_000),
        (parts, more, driver, frequencyHz) => expectAgrees([...parts, ...more, driver], frequencyHz, 's'),
      ),
      { numRuns: 400 },
    )
  })
  it('superposes: two sources together are the sum of each alone', () => {
    fc.assert(
      fc.property(network, source('one'), source('two'), frequency, (parts, one, two, frequencyHz) => {
        const together = [...parts, { ...one, signal: 'x' } as Part, { ...two, signal: 'x' } as Part]
        const apart = [...parts, one, two]
        expect(signalsOf(apart)).toEqual(['one', 'two'])
        const both = solve(together, frequencyHz, 'x').volts('a')
        const [first_, second] = ['one', 'two'].map((signal) => solve(apart, frequencyHz, signal).volts('a'))
        expect(both.re).toBeCloseTo(first_!.re + second!.re, 8)
        expect(both.im).toBeCloseTo(first_!.im + second!.im, 8)
      }),
    )
  })
  it('is reciprocal: a current into one node raises another as much as the other way round', () => {
    fc.assert(
      fc.property(network, frequency, (parts, frequencyHz) => {
        const inject = (at: string): Part => ({
          kind: 'source',
          id: 'i',
          from: at,
          to: ground,
          volts: 1e12,
          ohm: 1e12,
          signal: 's',
        })
        const there = solve([...parts, inject('a')], frequencyHz, 's').volts('b')
        const back = solve([...parts, inject('b')], frequencyHz, 's').volts('a')
        const size = Math.max(1, Math.hypot(there.re, there.im))
        expect(Math.hypot(there.re - back.re, there.im - back.im) / size).toBeLessThan(1e-6)
      }),
    )
  })
  it('burns as much as its sources give', () => {
    fc.assert(
      fc.property(
        network.map((parts) => parts.filter(({ kind }) => kind === 'resistor')),
        source('s'),
        (parts, driver) => {
          if (driver.kind !== 'source') return
          const solution = solve([...parts, driver], 0, undefined)
          void solution
          const at = solve([...parts, driver], 1000, 's')
          const across = (from: string, to: string) => at.volts(from).re - at.volts(to).re
          const drop = driver.volts - across(driver.from, driver.to)
          const given = (driver.volts * drop) / driver.ohm
          const burnt = parts.reduce(
            (sum, part) =>
              part.kind === 'resistor' ? sum + across(part.from, part.to) ** 2 / part.ohm : sum,
            drop ** 2 / driver.ohm,
          )
          expect(burnt).toBeCloseTo(given, 6)
        },
      ),
    )
  })
  it('lets no load raise a level', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 5000, noNaN: true }),
        fc.double({ min: 100, max: 1e5, noNaN: true }),
        fc.double({ min: 10, max: 1e5, noNaN: true }),
        (sourceOhm, loadOhm, moreOhm) => {
          const link = (ohm_: number): PluggedLink => ({
            output: { ...dynamic, channels: [{ ...dynamic.channels[0]!, ohm: sourceOhm }] },
            pieces: [],
            inputs: [balancedInput(ohm_)],
          })
          const alone = first(link(loadOhm)).reaches[0]!.db
          const loaded = first(link(1 / (1 / loadOhm + 1 / moreOhm))).reaches[0]!.db
          expect(loaded).toBeLessThanOrEqual(alone + 1e-9)
        },
      ),
    )
  })
  it('turns a balanced link over when its legs are crossed, and changes nothing else', () => {
    const crossed: Piece = {
      ...cable('xlr-3', 2),
      wires: wiresOf([
        ['1', '1'],
        ['2', '3'],
        ['3', '2'],
      ]),
    }
    const straight = first({
      output: dynamic,
      pieces: [cable('xlr-3', 2)],
      inputs: [balancedInput(2400, 100_000)],
    }).reaches[0]!
    const turned = first({ output: dynamic, pieces: [crossed], inputs: [balancedInput(2400, 100_000)] })
      .reaches[0]!
    expect(turned.sign).toBe(-straight.sign)
    expect(turned.db).toBeCloseTo(straight.db, 9)
  })
  it('passes sound through a transformer and holds DC back', () => {
    const transformer: Piece = {
      id: 'iso',
      name: 'Isolating transformer',
      ends: [
        { shape: 'xlr-3', gender: 'socket' },
        { shape: 'xlr-3', gender: 'plug' },
      ],
      wires: [],
      parts: [
        {
          kind: 'transformer',
          first: [
            { end: 0, contact: '2' },
            { end: 0, contact: '3' },
          ],
          second: [
            { end: 1, contact: '2' },
            { end: 1, contact: '3' },
          ],
          ratio: 1,
          firstOhm: 40,
          secondOhm: 40,
          henry: 20,
          leakageHenry: 0,
        },
      ],
    }
    const phantom = [{ name: 'phantom power', volts: 48, ohm: 6810, contacts: ['2', '3'] }]
    const facts = first({
      output: dynamic,
      pieces: [transformer],
      inputs: [balancedInput(10_000, undefined, phantom)],
    })
    expect(facts.reaches[0]!.db).toBeGreaterThan(-1)
    for (const { volts } of facts.outputDc) expect(Math.abs(volts)).toBeLessThan(0.01)
  })
  it('refuses a network without an answer', () => {
    expect(() =>
      solve([{ kind: 'resistor', id: 'r', from: 'a', to: 'b', ohm: Number.NaN }], 1000, 's'),
    ).toThrow(SingularNetwork)
  })
})
