import { describe, expect, it } from 'vitest'
import { contactsOf, Gear, type GearInput } from '../model'
import { balancedInput, dynamic, first } from '../tests/links'
import { type InputPort, type OutputPort, type Piece, pieceOfGear, strayCapacitors } from './index'

const lead = (passive: NonNullable<GearInput['passive']>, reversed = false): Piece =>
  pieceOfGear(
    'lead',
    Gear.parse({ id: 'lead', name: 'Lead', maker: 'Tarnwick', kind: 'cable', passive }),
    {},
    reversed,
  )!
const highOut: OutputPort = { ...dynamic, channels: [{ ...dynamic.channels[0]!, ohm: 10_000 }] }
const treble = (piece: Piece, output = highOut, input: InputPort = balancedInput(1e6)) =>
  first({ output, pieces: [piece], inputs: [input] }).reaches[0]!.trebleDb
const poleDb = (hz: number, cornerHz: number) => -10 * Math.log10(1 + (hz / cornerHz) ** 2)
const farad = 10e-9

describe('capacitance of a cable', () => {
  it('lies between cores and shield, and between the cores: one pole by hand', () => {
    // 100 m of 100 pF/m to the shield and 30 between the cores: half of 10 nF in series pairs, and 3 nF beside it
    const piece = lead({
      from: 'xlr-3',
      to: 'xlr-3',
      lengthM: 100,
      picofaradPerM: 100,
      corePicofaradPerM: 30,
    })
    const corner = 1 / (2 * Math.PI * 10_000 * (farad / 2 + 3e-9)) / (1e6 / (1e6 + 10_000))
    expect(treble(piece)).toBeCloseTo(poleDb(10_000, corner) - poleDb(1000, corner), 1)
  })
  it('is one figure from the other where only one is known', () => {
    const [shield, core, both] = [
      { picofaradPerM: 100 },
      { corePicofaradPerM: 50 },
      { picofaradPerM: 100, corePicofaradPerM: 50 },
    ].map((figures) => treble(lead({ from: 'xlr-3', to: 'xlr-3', lengthM: 50, ...figures })))
    expect(shield).toBeCloseTo(both!, 9)
    expect(core).toBeCloseTo(both!, 9)
  })
  it('does not depend on which way round the lead lies', () => {
    const passive = {
      from: 'xlr-3' as const,
      to: 'xlr-3' as const,
      fromGender: 'plug' as const,
      toGender: 'socket' as const,
      lengthM: 30,
      picofaradPerM: 120,
    }
    const straight = lead({ ...passive, fromGender: 'socket', toGender: 'plug' })
    expect(treble(lead(passive, true))).toBeCloseTo(treble(straight), 9)
  })
  it('counts once for a conductor, however many contacts it has', () => {
    const output: OutputPort = {
      name: 'out',
      shape: 'mini-3',
      gender: 'socket',
      channels: [{ signal: 'voice', drive: 'single-ended', hot: 'tip', ohm: 20_000 }],
      ground: ['sleeve'],
    }
    const input: InputPort = {
      name: 'in',
      shape: 'mini-3',
      gender: 'socket',
      channels: [
        { id: 'left', hot: 'tip', ohm: 1e6 },
        { id: 'right', hot: 'ring', ohm: 1e6 },
      ],
      ground: ['sleeve'],
    }
    const both = lead({
      from: 'mini-3',
      to: 'mini-3',
      wires: [
        ['tip', 'tip'],
        ['tip', 'ring'],
        ['sleeve', 'sleeve'],
      ],
      lengthM: 10,
      picofaradPerM: 100,
    })
    // one core of 1 nF behind 20 kohm, loaded by twice 1 Mohm
    const corner = 1 / (2 * Math.PI * 1e-9 * (1 / (1 / 20_000 + 2 / 1e6)))
    expect(first({ output, pieces: [both], inputs: [input] }).reaches[0]!.trebleDb).toBeCloseTo(
      poleDb(10_000, corner) - poleDb(1000, corner),
      2,
    )
  })
  it('goes to the shield, not to the ground of a box: without one there is none to go to', () => {
    const strays = (wires: [string, string][], shieldedAt?: 'from' | 'neither') =>
      strayCapacitors(
        { lengthM: 20, picofaradPerM: 100, corePicofaradPerM: 0, shieldedAt },
        ['jack-2', 'jack-2'],
        wires,
      )
    expect(strays([['tip', 'tip']])).toEqual([])
    const lifted = strays([['tip', 'tip']], 'from')
    expect(lifted.every(({ to }) => 'end' in to && to.end === 0 && to.contact === 'sleeve')).toBe(true)
    const ends = (wires: [string, string][], shieldedAt: 'from' | 'to' | 'both') =>
      strayCapacitors(
        { lengthM: 20, picofaradPerM: 100, corePicofaradPerM: 0, shieldedAt },
        ['xlr-3', 'jack-2'],
        wires,
      ).map(({ to }) => 'end' in to && `${to.end} ${to.contact}`)
    expect(ends([['2', 'tip']], 'both')).toEqual(['0 1', '1 sleeve'])
    expect(ends([['2', 'tip']], 'to')).toEqual(['1 sleeve', '1 sleeve'])
    // what is wired to ground at one end only is the shield too
    expect(
      ends(
        [
          ['2', 'tip'],
          ['1', 'tip'],
        ],
        'to',
      ),
    ).toEqual([])
    expect(
      ends(
        [
          ['2', 'tip'],
          ['3', 'sleeve'],
        ],
        'to',
      ),
    ).toEqual(['0 3', '1 sleeve'])
    expect(lifted.reduce((sum, each) => sum + each.farad, 0)).toBeCloseTo(2e-9, 15)
    // a shield joined to nothing joins the cores in series, and takes nothing from a single one
    expect(
      treble(
        lead({
          from: 'xlr-3',
          to: 'xlr-3',
          wires: [
            ['2', '2'],
            ['3', '3'],
          ],
          lengthM: 100,
          picofaradPerM: 100,
          corePicofaradPerM: 0,
        }),
      ),
    ).toBeCloseTo(0, 3)
  })
  it('is shared half and half by the two ends of every pair of conductors', () => {
    const straight = contactsOf['mini-3'].map((contact): [string, string] => [contact, contact])
    const strays = strayCapacitors({ lengthM: 1, picofaradPerM: 100 }, ['mini-3', 'mini-3'], straight)
    expect(strays).toHaveLength(6)
    const at = (end: number) =>
      strays
        .filter(({ from }) => 'end' in from && from.end === end)
        .reduce((sum, each) => sum + each.farad, 0)
    expect(at(0)).toBeCloseTo(at(1), 18)
    expect(at(0) + at(1)).toBeCloseTo((100 + 100 + 50) * 1e-12, 18)
  })
})
