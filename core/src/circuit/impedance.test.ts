import { describe, expect, it } from 'vitest'
import { balancedInput, cable, dynamic, first, wiresOf } from '../tests/links'
import { gainsOf, type OutputPort, type Piece, type PluggedLink } from './index'

const source = (ohm: number): OutputPort => ({ ...dynamic, channels: [{ ...dynamic.channels[0]!, ohm }] })
const thermal = (plugged: PluggedLink) => {
  const { output, pieces, inputs } = gainsOf(plugged)!.gains[0]!.thermalOhm
  return { output, pieces, inputs, link: pieces + inputs }
}

describe('thermal noise at an input', () => {
  it('is that of source and load in parallel, each with its own share', () => {
    const { output, link } = thermal({ output: source(1500), pieces: [], inputs: [balancedInput(1500)] })
    // 1500 ohm beside 1500: 375 from each, together the 750 that are seen
    expect(output).toBeCloseTo(375, 3)
    expect(link).toBeCloseTo(375, 3)
  })
  it('of a pad is what Nyquist finds looking back through it', () => {
    const ladder: Piece = {
      ...cable('xlr-3', 0),
      wires: [],
      parts: [
        { kind: 'resistor', from: { end: 0, contact: '2' }, to: { inside: 'a' }, ohm: 680 },
        { kind: 'resistor', from: { end: 0, contact: '3' }, to: { inside: 'b' }, ohm: 680 },
        { kind: 'resistor', from: { inside: 'a' }, to: { inside: 'b' }, ohm: 165 },
        { kind: 'resistor', from: { inside: 'a' }, to: { end: 1, contact: '2' }, ohm: 0.1 },
        { kind: 'resistor', from: { inside: 'b' }, to: { end: 1, contact: '3' }, ohm: 0.1 },
      ],
    }
    const { output, link } = thermal({ output: source(150), pieces: [ladder], inputs: [balancedInput(3000)] })
    const beside = (...ohms: number[]) => 1 / ohms.reduce((sum, ohm) => sum + 1 / ohm, 0)
    const seen = beside(beside(150 + 1360, 165) + 0.2, 3000)
    expect(output + link).toBeCloseTo(seen, 2)
    // the source itself, divided twice
    const divided = (beside(165, 3000.2) / (150 + 1360 + beside(165, 3000.2))) * (3000 / 3000.2)
    expect(output).toBeCloseTo(150 * divided ** 2, 3)
  })
  it.each([6e-323, 1e-9, 1e-6])('of %s ohm is next to nothing', (ohm) => {
    const lead: Piece = {
      ...cable('xlr-3', 0),
      wires: wiresOf([['1', '1']]),
      parts: ['2', '3'].map((contact) => ({
        kind: 'resistor',
        from: { end: 0, contact },
        to: { end: 1, contact },
        ohm,
      })),
    }
    const { pieces } = thermal({ output: source(150), pieces: [lead], inputs: [balancedInput(3000)] })
    expect(pieces).toBeLessThanOrEqual(2 * ohm)
  })
  it('counts the copper of a transformer on both sides', () => {
    const transformer: Piece = {
      ...cable('xlr-3', 0),
      wires: [['1', '1']].map(([one, other]) => [
        { end: 0, contact: one! },
        { end: 1, contact: other! },
      ]),
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
          ratio: 2,
          firstOhm: 40,
          secondOhm: 160,
          henry: 1e4,
          leakageHenry: 0,
        },
      ],
    }
    const { output, link } = thermal({
      output: source(150),
      pieces: [transformer],
      inputs: [balancedInput(1e7)],
    })
    expect(output).toBeCloseTo(4 * 150, 0)
    expect(link).toBeCloseTo(4 * 40 + 160, 0)
  })
})

describe('the copper of a transformer', () => {
  const between = (ratio: number, firstOhm: number, secondOhm: number): Piece => ({
    ...cable('xlr-3', 0),
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
        ratio,
        firstOhm,
        secondOhm,
        henry: 1e4,
        leakageHenry: 0,
      },
    ],
  })
  it('costs level at every frequency: 150 ohm through twice 100 into 600 loses 3.99 dB', () => {
    const facts = first({ output: source(150), pieces: [between(1, 100, 100)], inputs: [balancedInput(600)] })
    expect(facts.reaches[0]!.db).toBeCloseTo(20 * Math.log10(600 / 950), 2)
    expect(facts.reaches[0]!.db).toBeCloseTo(-3.99, 2)
  })
  it('stands behind the turns ratio: a step up of two makes four times the source', () => {
    const facts = first({ output: source(150), pieces: [between(2, 50, 300)], inputs: [balancedInput(2400)] })
    expect(facts.reaches[0]!.db).toBeCloseTo(20 * Math.log10((2 * 2400) / (2400 + 300 + 4 * 200)), 2)
  })
  it('with the inductance of the winding ends the bass, with its leakage the treble, where the sheet says', () => {
    const piece = between(1, 0, 0)
    const [part] = piece.parts!
    if (part?.kind !== 'transformer') throw new Error('no transformer')
    const real = { ...piece, parts: [{ ...part, henry: 0.5, leakageHenry: 0.01 }] }
    const [reach] = first({ output: source(600), pieces: [real], inputs: [balancedInput(600)] }).reaches
    // half a henry beside 300 ohm; ten millihenry in line with 1200 ohm
    expect(reach!.bassCornerHz).toBeGreaterThan(0.93 * (300 / (2 * Math.PI * 0.5)))
    expect(reach!.bassCornerHz).toBeLessThan(1.07 * (300 / (2 * Math.PI * 0.5)))
    expect(reach!.cornerHz).toBeGreaterThan(0.93 * (1200 / (2 * Math.PI * 0.01)))
    expect(reach!.cornerHz).toBeLessThan(1.07 * (1200 / (2 * Math.PI * 0.01)))
  })
})
