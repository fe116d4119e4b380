import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Connector, Gear, type GearInput, type Rung } from '../model'
import { denseGain } from '../tests/dense-ladder'
import { first } from '../tests/links'
import { type InputPort, type OutputPort, type Piece, pieceOfGear } from './index'

const rung: fc.Arbitrary<Rung> = fc.oneof(
  fc.record({ seriesOhm: fc.double({ min: 1, max: 1e5, noNaN: true }) }),
  fc.record({ shuntOhm: fc.double({ min: 10, max: 1e6, noNaN: true }) }),
)
const rungs = fc.array(rung, { maxLength: 6 })

const pad = (passive: NonNullable<GearInput['passive']>, reversed = false): Piece =>
  pieceOfGear(
    'pad',
    Gear.parse({ id: 'pad', name: 'Pad', maker: 'Tarnwick', kind: 'pad', passive }),
    {},
    reversed,
  )!
const balancedOut = (shape: 'xlr-3' | 'ta-3' | 'jack-3', ohm: number): OutputPort => ({
  name: 'out',
  shape,
  gender: shape === 'jack-3' ? 'socket' : 'plug',
  channels: [
    {
      signal: 'voice',
      drive: 'floating',
      hot: shape === 'jack-3' ? 'tip' : '2',
      cold: shape === 'jack-3' ? 'ring' : '3',
      ohm,
    },
  ],
  ground: [shape === 'jack-3' ? 'sleeve' : '1'],
})
const balancedIn = (shape: 'xlr-3' | 'ta-3' | 'jack-3', ohm: number): InputPort => ({
  name: 'in',
  shape,
  gender: 'socket',
  channels: [
    { id: 'one', hot: shape === 'jack-3' ? 'tip' : '2', cold: shape === 'jack-3' ? 'ring' : '3', ohm },
  ],
  ground: [shape === 'jack-3' ? 'sleeve' : '1'],
})
const db = (ratio: number) => 20 * Math.log10(ratio)
const heard = (output: OutputPort, piece: Piece, input: InputPort) =>
  first({ output, pieces: [piece], inputs: [input] }).reaches[0]!.db

describe('a ladder of any rungs in any order', () => {
  it('in a balanced run is the one ladder of both legs together: XLR, three-pin and 6.35 mm', () => {
    fc.assert(
      fc.property(
        rungs,
        fc.constantFrom('xlr-3' as const, 'ta-3' as const, 'jack-3' as const),
        (ladder, shape) => {
          const piece = pad({
            from: shape,
            to: shape,
            ladder,
            fromGender: shape === 'jack-3' ? 'plug' : 'socket',
          })
          expect(heard(balancedOut(shape, 150), piece, balancedIn(shape, 2000))).toBeCloseTo(
            db(denseGain(150, ladder, 2000)),
            3,
          )
        },
      ),
    )
  })
  it('counts shunts that come first or follow each other, which a T pad has not', () => {
    const level = (...ladder: Rung[]) =>
      heard(balancedOut('xlr-3', 150), pad({ from: 'xlr-3', to: 'xlr-3', ladder }), balancedIn('xlr-3', 2000))
    // 150 ohm into 150 in parallel with 2000
    expect(level({ shuntOhm: 150 })).toBeCloseTo(db(139.535 / 289.535), 3)
    expect(level({ shuntOhm: 300 }, { shuntOhm: 300 })).toBeCloseTo(level({ shuntOhm: 150 }), 9)
    // a pi
    expect(level({ shuntOhm: 200 }, { seriesOhm: 600 }, { shuntOhm: 200 })).toBeCloseTo(
      db(denseGain(150, [{ shuntOhm: 200 }, { seriesOhm: 600 }, { shuntOhm: 200 }], 2000)),
      3,
    )
  })
  it('turned round is the same ladder from the other end', () => {
    fc.assert(
      fc.property(rungs, (ladder) => {
        const piece = pad(
          { from: 'xlr-3', to: 'xlr-3', fromGender: 'plug', toGender: 'socket', ladder },
          true,
        )
        expect(heard(balancedOut('xlr-3', 150), piece, balancedIn('xlr-3', 2000))).toBeCloseTo(
          db(denseGain(150, [...ladder].reverse(), 2000)),
          3,
        )
      }),
    )
  })
  it('from a balanced run into an unbalanced one lies half in each leg', () => {
    fc.assert(
      fc.property(rungs, (ladder) => {
        const piece = pad({
          from: 'xlr-3',
          to: 'mini-2',
          wires: [
            ['2', 'tip'],
            ['3', 'sleeve'],
          ],
          ladder,
        })
        const input: InputPort = {
          name: 'in',
          shape: 'mini-2',
          gender: 'socket',
          channels: [{ id: 'one', hot: 'tip', ohm: 5000 }],
          ground: ['sleeve'],
        }
        expect(heard(balancedOut('xlr-3', 150), piece, input)).toBeCloseTo(
          db(denseGain(150, ladder, 5000)),
          3,
        )
      }),
    )
  })
  it('lies in each conductor by itself where each is a signal, and where the piece says so', () => {
    const stereo = (shape: 'mini-3' | 'jack-3'): [OutputPort, InputPort] => [
      {
        name: 'out',
        shape,
        gender: 'socket',
        channels: [
          { signal: 'left', drive: 'single-ended', hot: 'tip', ohm: 100 },
          { signal: 'right', drive: 'single-ended', hot: 'ring', ohm: 100 },
        ],
        ground: ['sleeve'],
      },
      {
        name: 'in',
        shape,
        gender: 'socket',
        channels: [
          { id: 'left', hot: 'tip', ohm: 4700 },
          { id: 'right', hot: 'ring', ohm: 4700 },
        ],
        ground: ['sleeve'],
      },
    ]
    const cases: [Connector & ('mini-3' | 'jack-3'), 'each' | undefined][] = [
      ['mini-3', undefined],
      ['jack-3', 'each'],
    ]
    fc.assert(
      fc.property(rungs, fc.constantFrom(...cases), (ladder, [shape, ladderAcross]) => {
        const [output, input] = stereo(shape)
        const piece = pad({ from: shape, to: shape, ladder, ladderAcross })
        const { reaches } = first({ output, pieces: [piece], inputs: [input] })
        for (const side of ['left', 'right'])
          expect(reaches.find(({ channel, signal }) => channel === side && signal === side)!.db).toBeCloseTo(
            db(denseGain(100, ladder, 4700)),
            3,
          )
      }),
    )
  })
})
