import { describe, expect, it } from 'vitest'
import type { InputPort, OutputPort, Piece } from './index'
import { about, balancedInput, dynamic, first, stereoInput, wiresOf, xlrToMini } from '../tests/links'

describe('the worked cases, as a circuit simulator has them', () => {
  it('dynamic microphone into a differential input: -1.035 dB', () => {
    const facts = first({ output: dynamic, pieces: [], inputs: [balancedInput(2400, 100_000)] })
    expect(facts.reaches[0]!.db).toBeCloseTo(-1.035, 2)
    expect(facts.balanced[0]!.balanced).toBe(true)
  })
  it('the same on a stereo camera input with plug-in power left on: -3.255 dB both ways up, 0.450 V on the coil', () => {
    const supplies = [{ name: 'plug-in power', volts: 2.4, ohm: 2200, contacts: ['tip', 'ring'] }]
    const link = { output: dynamic, pieces: [xlrToMini], inputs: [stereoInput(3300, supplies)] }
    const facts = first(link)
    expect(facts.reaches.map(({ db }) => db)).toEqual([expect.closeTo(-3.255, 2), expect.closeTo(-3.255, 2)])
    expect(facts.reaches.map(({ sign }) => sign)).toEqual([1, 1])
    expect(
      facts.outputDc.find(({ contact }) => contact === '2')!.volts -
        facts.outputDc.find(({ contact }) => contact === '3')!.volts,
    ).toBeCloseTo(0.45, 3)
    expect(about(link)).toEqual(expect.arrayContaining(['both sides', 'foreign supply']))
  })
  it('symmetric output into one single-ended input, the other leg shorted: -6.086 dB', () => {
    const output: OutputPort = {
      ...dynamic,
      name: 'Desk',
      channels: [{ signal: 'desk', drive: 'symmetric', hot: '2', cold: '3', ohm: 75 }],
    }
    const input: InputPort = {
      name: 'Line in',
      shape: 'mini-2',
      gender: 'socket',
      channels: [{ id: 'one', hot: 'tip', ohm: 10_000 }],
      ground: ['sleeve'],
    }
    const piece: Piece = {
      ...xlrToMini,
      ends: [xlrToMini.ends[0]!, { shape: 'mini-2', gender: 'plug' }],
      wires: wiresOf([
        ['2', 'tip'],
        ['1', 'sleeve'],
        ['3', 'sleeve'],
      ]),
    }
    const link = { output, pieces: [piece], inputs: [input] }
    expect(first(link).reaches[0]!.db).toBeCloseTo(-6.086, 2)
    expect(about(link)).toEqual(expect.arrayContaining(['shorted output', 'half level']))
  })
  it('headphones beside the camera on a splitter: -12.330 dB, -0.086 without them', () => {
    const output: OutputPort = {
      name: 'Line out',
      shape: 'mini-2',
      gender: 'socket',
      channels: [{ signal: 'mix', drive: 'single-ended', hot: 'tip', ohm: 100 }],
      ground: ['sleeve'],
    }
    const input = (name: string, ohm: number): InputPort => ({
      name,
      shape: 'mini-2',
      gender: 'plug',
      channels: [{ id: 'one', hot: 'tip', ohm }],
      ground: ['sleeve'],
    })
    const splitter: Piece = {
      id: 'y',
      name: 'Y splitter',
      ends: [
        { shape: 'mini-2', gender: 'plug' },
        { shape: 'mini-2', gender: 'socket' },
        { shape: 'mini-2', gender: 'socket' },
      ],
      wires: [1, 2].flatMap((end) =>
        ['tip', 'sleeve'].map(
          (contact) =>
            [
              { end: 0, contact },
              { end, contact },
            ] as const,
        ),
      ),
    }
    const both = { output, pieces: [splitter], inputs: [input('Camera', 10_000), input('Headphones', 32)] }
    expect(first(both).reaches.find((reach) => reach.input === 0)!.db).toBeCloseTo(-12.33, 2)
    expect(about(both)).toContain('overloaded output')
    expect(first({ ...both, inputs: [input('Camera', 10_000)] }).reaches[0]!.db).toBeCloseTo(-0.086, 2)
  })
  it('phantom power into a receiver output and a grounded pin: 6.146 V, 7.05 mA, -1.190 dB', () => {
    const output: OutputPort = {
      name: 'Receiver',
      shape: 'mini-3',
      gender: 'socket',
      channels: [{ signal: 'radio', drive: 'single-ended', hot: 'tip', ohm: 1000 }],
      ground: ['sleeve'],
    }
    const adapter: Piece = {
      id: 'mini-to-xlr',
      name: 'Mini to XLR lead',
      ends: [
        { shape: 'mini-3', gender: 'plug' },
        { shape: 'xlr-3', gender: 'plug' },
      ],
      wires: wiresOf([
        ['tip', '2'],
        ['sleeve', '1'],
        ['sleeve', '3'],
      ]),
    }
    const phantom = [{ name: 'phantom power', volts: 48, ohm: 6810, contacts: ['2', '3'] }]
    const link = { output, pieces: [adapter], inputs: [balancedInput(Infinity, undefined, phantom)] }
    const facts = first(link)
    expect(facts.outputDc.find(({ contact }) => contact === 'tip')!.volts).toBeCloseTo(6.146, 3)
    expect(facts.supplies.find(({ contact }) => contact === '3')!.amperes * 1000).toBeCloseTo(7.05, 2)
    expect(facts.reaches[0]!.db).toBeCloseTo(-1.19, 2)
    expect(about(link)).toEqual(expect.arrayContaining(['foreign supply', 'supply shorted']))
  })
})
