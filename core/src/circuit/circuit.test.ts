import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { applyEdits, type Gear, parseJson, Patch, ShelfFile, shelfOf } from '../model'
import fc from 'fast-check'
import {
  contactsOf,
  factsOf,
  findWays,
  fits,
  ground,
  type InputPort,
  matings,
  pieceOfGear,
  pluggedLink,
  type Netlist,
  type OutputPort,
  type Part,
  type Piece,
  type PluggedLink,
  reportOf,
  type Shape,
  signalsOf,
  solve,
  SingularNetwork,
  variantsOf,
  wiringFindings,
  wiringOf,
} from './index'

/** A piece with straight wires between equal contacts. */
const cable = (
  shape: Shape,
  lengthM: number,
  from: 'plug' | 'socket' = 'socket',
  to: 'plug' | 'socket' = 'plug',
): Piece => ({
  id: 'cable',
  name: 'cable',
  ends: [
    { shape, gender: from },
    { shape, gender: to },
  ],
  wires: contactsOf[shape].map(
    (contact) =>
      [
        { end: 0, contact },
        { end: 1, contact },
      ] as const,
  ),
  lengthM,
})
const wiresOf = (pairs: [string, string][]) =>
  pairs.map(
    ([one, other]) =>
      [
        { end: 0, contact: one },
        { end: 1, contact: other },
      ] as const,
  )

const dynamic: OutputPort = {
  name: 'Hand-held dynamic',
  shape: 'xlr-3',
  gender: 'plug',
  channels: [{ signal: 'voice', drive: 'floating', hot: '2', cold: '3', ohm: 300 }],
  ground: ['1'],
}
const balancedInput = (
  ohm: number,
  commonModeOhm?: number,
  supplies: InputPort['supplies'] = [],
): InputPort => ({
  name: 'Recorder in',
  shape: 'xlr-3',
  gender: 'socket',
  channels: [{ id: 'one', hot: '2', cold: '3', ohm, commonModeOhm }],
  ground: ['1'],
  supplies,
})
const stereoInput = (ohm: number, supplies: InputPort['supplies'] = []): InputPort => ({
  name: 'Camera in',
  shape: 'mini-3',
  gender: 'socket',
  channels: [
    { id: 'left', hot: 'tip', ohm },
    { id: 'right', hot: 'ring', ohm },
  ],
  ground: ['sleeve'],
  supplies,
})
const first = (link: PluggedLink) => {
  const found = variantsOf(link)
  if ('misfit' in found) throw new Error(found.misfit.at)
  return factsOf(link, found.variants[0]!)
}
const about = (link: PluggedLink) => reportOf(link).findings.map((finding) => finding.about)
const xlrToMini: Piece = {
  id: 'xlr-to-mini',
  name: 'XLR to mini lead',
  ends: [
    { shape: 'xlr-3', gender: 'socket' },
    { shape: 'mini-3', gender: 'plug' },
  ],
  wires: wiresOf([
    ['2', 'tip'],
    ['2', 'ring'],
    ['1', 'sleeve'],
    ['3', 'sleeve'],
  ]),
}

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

describe('mating by geometry', () => {
  it('joins second ring and sleeve of a four-contact socket on a three-contact plug', () => {
    expect(matings('mini-3', 'mini-4')).toEqual([
      [
        ['tip', 'tip'],
        ['ring', 'ring'],
        ['sleeve', 'second ring'],
        ['sleeve', 'sleeve'],
      ],
    ])
  })
  it('knows that a stereo plug in a mono socket may touch by sleeve or by ring', () => {
    expect(matings('mini-3', 'mini-2')).toHaveLength(2)
    expect(matings('mini-2', 'mini-2')).toHaveLength(1)
    expect(matings('mini-3', 'jack-3')).toEqual([])
  })
})

describe('the mistakes people make', () => {
  const lapel: OutputPort = {
    name: 'Lapel',
    shape: 'mini-3',
    gender: 'plug',
    channels: [{ signal: 'founder', drive: 'single-ended', hot: 'tip', ohm: 2200 }],
    ground: ['sleeve'],
    needs: [{ name: 'its capsule', contacts: ['tip'], leastVolts: 1, usualVolts: 1.8, usualAmperes: 0.0003 }],
  }
  /** A phone or action camera: microphone on the sleeve, ground on the second ring. */
  const headset: InputPort = {
    name: 'Phone',
    shape: 'mini-4',
    gender: 'socket',
    channels: [{ id: 'microphone', hot: 'sleeve', ohm: 3000 }],
    ground: ['second ring'],
    supplies: [{ name: 'plug-in power', volts: 2.2, ohm: 2200, contacts: ['sleeve'] }],
  }
  const threeToFour: Piece = {
    id: 'three-to-four',
    name: 'Three-to-four adapter',
    ends: [
      { shape: 'mini-3', gender: 'socket' },
      { shape: 'mini-4', gender: 'plug' },
    ],
    wires: wiresOf([
      ['tip', 'sleeve'],
      ['sleeve', 'second ring'],
    ]),
  }
  it('a microphone plug in a headset socket is silent; the adapter cures it', () => {
    const alone = { output: lapel, pieces: [], inputs: [headset] }
    expect(about(alone)).toEqual(expect.arrayContaining(['dead', 'supply missing', 'supply shorted']))
    expect(reportOf(alone).findings[0]!.severity).toBe('dead')
    const adapted = { ...alone, pieces: [threeToFour] }
    expect(
      reportOf(adapted).findings.filter(({ severity }) => severity === 'dead' || severity === 'harmful'),
    ).toEqual([])
  })
  it('and the finding follows from the contacts: wired the other way, the same adapter gives it no power', () => {
    const other = {
      ...threeToFour,
      wires: wiresOf([
        ['tip', 'second ring'],
        ['sleeve', 'sleeve'],
      ]),
    }
    expect(reportOf({ output: lapel, pieces: [other], inputs: [headset] }).findings[0]).toMatchObject({
      about: 'supply missing',
      severity: 'dead',
    })
  })
  it('a balanced feed into a stereo input records the right side upside down', () => {
    const output: OutputPort = {
      name: 'Line out',
      shape: 'jack-3',
      gender: 'socket',
      channels: [{ signal: 'mix', drive: 'symmetric', hot: 'tip', cold: 'ring', ohm: 75 }],
      ground: ['sleeve'],
    }
    const input = { ...stereoInput(10_000), shape: 'jack-3' as const }
    const link = { output, pieces: [cable('jack-3', 1, 'plug', 'plug')], inputs: [input] }
    const finding = reportOf(link).findings.find((each) => each.about === 'polarity')!
    expect(finding.severity).toBe('harmful')
    expect(finding.what).toMatch(/right of Camera in is upside down against left/)
  })
  it('a stereo feed into a balanced input cancels what both share', () => {
    const output: OutputPort = {
      name: 'Player',
      shape: 'jack-3',
      gender: 'socket',
      channels: [
        { signal: 'left', drive: 'single-ended', hot: 'tip', ohm: 100 },
        { signal: 'right', drive: 'single-ended', hot: 'ring', ohm: 100 },
      ],
      ground: ['sleeve'],
    }
    const input: InputPort = {
      name: 'Mixer in',
      shape: 'jack-3',
      gender: 'socket',
      channels: [{ id: 'one', hot: 'tip', cold: 'ring', ohm: 20_000, commonModeOhm: 20_000 }],
      ground: ['sleeve'],
    }
    expect(about({ output, pieces: [cable('jack-3', 1, 'plug', 'plug')], inputs: [input] })).toContain(
      'cancelled',
    )
  })
  it('a long lead at high impedance loses treble, and says from where', () => {
    const long = { ...cable('xlr-3', 100), faradPerM: 100e-12 }
    const output = { ...dynamic, channels: [{ ...dynamic.channels[0]!, ohm: 10_000 }] }
    const finding = reportOf({ output, pieces: [long], inputs: [balancedInput(1e6)] }).findings.find(
      (each) => each.about === 'treble',
    )!
    // two legs of 10 nF to ground in series across 10 kohm: 5 nF, 3.2 kHz
    expect(finding.why).toMatch(/3 dB less from 3\.[0-9] kHz/)
  })
  it('a condenser without its supply is dead, with phantom power it lives', () => {
    const output: OutputPort = {
      ...dynamic,
      name: 'Short gun',
      channels: [{ ...dynamic.channels[0]!, ohm: 150 }],
      needs: [
        { name: 'its amplifier', contacts: ['2', '3'], leastVolts: 30, usualVolts: 40, usualAmperes: 0.003 },
      ],
    }
    expect(about({ output, pieces: [cable('xlr-3', 6)], inputs: [balancedInput(3000)] })).toContain(
      'supply missing',
    )
    const phantom = [{ name: 'phantom power', volts: 48, ohm: 6810, contacts: ['2', '3'] }]
    const powered = reportOf({
      output,
      pieces: [cable('xlr-3', 6)],
      inputs: [balancedInput(3000, undefined, phantom)],
    }).findings
    expect(powered.filter(({ severity }) => severity !== 'note')).toEqual([])
  })
  it('plugs that do not go together are refused by shape, not by name', () => {
    expect(reportOf({ output: dynamic, pieces: [], inputs: [stereoInput(3000)] }).findings).toMatchObject([
      { about: 'misfit', severity: 'dead' },
    ])
    expect(
      reportOf({
        output: dynamic,
        pieces: [cable('xlr-3', 1, 'socket', 'socket')],
        inputs: [balancedInput(3000)],
      }).findings[0]!.why,
    ).toMatch(/Two sockets face each other/)
  })
  it('says that a stereo plug in a mono socket works in some and shorts in others', () => {
    const output: OutputPort = {
      name: 'Line out',
      shape: 'mini-3',
      gender: 'plug',
      channels: [
        { signal: 'left', drive: 'single-ended', hot: 'tip', ohm: 100 },
        { signal: 'right', drive: 'single-ended', hot: 'ring', ohm: 100 },
      ],
      ground: ['sleeve'],
    }
    const input: InputPort = {
      name: 'Mono in',
      shape: 'mini-2',
      gender: 'socket',
      channels: [{ id: 'one', hot: 'tip', ohm: 10_000 }],
      ground: ['sleeve'],
    }
    const findings = reportOf({ output, pieces: [], inputs: [input] }).findings
    expect(findings.some(({ what }) => what.startsWith('In some sockets:'))).toBe(true)
  })
})

// ---- laws, on networks made at random

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
  fc.tuple(pair, pair, fc.double({ min: 0.1, max: 10, noNaN: true })).map(([first, second, ratio]): Part => ({
    kind: 'transformer',
    id: 't',
    first,
    second,
    ratio,
    windingOhm: 50,
    henry: 10,
  })),
  fc.tuple(pair, pair, ohm).map(([first, second, value]): Part => ({
    kind: 'amplifier',
    id: 'a',
    first,
    second,
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

/**
 * Modified nodal analysis in complex numbers, written for this test alone: ideal voltage sources get rows of their
 * own behind a node of their own, wires become voltage sources of 0 V, transformers two coupled inductor rows.
 */
function dense(
  netlist: Netlist,
  frequencyHz: number,
  signal: string | undefined,
): Map<string, [number, number]> {
  const names = new Set<string>()
  /** Branches with a current of their own: volts across, plus what its own and another's current and another pair add. */
  const currents: {
    from: string
    to: string
    volts: number
    own?: [number, number]
    mutual?: { branch: number; by: [number, number] }
    follows?: { of: readonly [string, string]; gain: number }
  }[] = []
  const admittances: { from: string; to: string; re: number; im: number }[] = []
  const omega = 2 * Math.PI * frequencyHz
  for (const [index, part] of netlist.entries()) {
    if (part.kind === 'transformer') {
      const at = currents.length
      const [one, two] = [part.henry, part.henry * part.ratio ** 2]
      const mutual = omega * 0.99999 * Math.sqrt(one * two)
      const own = (henry: number, windingOhm: number): [number, number] =>
        omega === 0 ? [windingOhm, 0] : [0, omega * henry]
      currents.push(
        {
          from: part.first[0],
          to: part.first[1],
          volts: 0,
          own: own(one, part.windingOhm),
          mutual: { branch: at + 1, by: [0, mutual] },
        },
        {
          from: part.second[0],
          to: part.second[1],
          volts: 0,
          own: own(two, part.windingOhm * part.ratio ** 2),
          mutual: { branch: at, by: [0, mutual] },
        },
      )
    } else if (part.kind === 'amplifier')
      currents.push({
        from: part.second[0],
        to: part.second[1],
        volts: 0,
        own: [part.ohm, 0],
        follows: omega === 0 ? undefined : { of: part.first, gain: part.gain },
      })
    else if (part.kind === 'resistor')
      admittances.push({ from: part.from, to: part.to, re: 1 / part.ohm, im: 0 })
    else if (part.kind === 'capacitor')
      admittances.push({ from: part.from, to: part.to, re: 0, im: omega * part.farad })
    else if (part.kind === 'wire') currents.push({ from: part.from, to: part.to, volts: 0 })
    else {
      const inner = `inner ${index}`
      admittances.push({ from: part.from, to: inner, re: 1 / part.ohm, im: 0 })
      currents.push({ from: inner, to: part.to, volts: part.signal === signal ? part.volts : 0 })
    }
  }
  for (const { from, to } of [...admittances, ...currents]) names.add(from).add(to)
  for (const { follows } of currents) follows?.of.forEach((name) => names.add(name))
  names.delete(ground)
  const list = [...names]
  const size = list.length + currents.length
  const matrix: [number, number][][] = Array.from({ length: size }, () =>
    Array.from({ length: size + 1 }, () => [0, 0]),
  )
  const row = (name: string) => list.indexOf(name)
  const put = (r: number, c: number, re: number, im: number) => {
    if (r < 0 || c < 0) return
    matrix[r]![c]![0] += re
    matrix[r]![c]![1] += im
  }
  for (const name of list) if (!name.startsWith('inner')) put(row(name), row(name), 1e-11, 0)
  for (const { from, to, re, im } of admittances)
    for (const [r, c, sign] of [
      [from, from, 1],
      [to, to, 1],
      [from, to, -1],
      [to, from, -1],
    ] as const)
      put(row(r), row(c), sign * re, sign * im)
  currents.forEach(({ from, to, volts, own, mutual, follows }, index) => {
    const k = list.length + index
    put(row(from), k, 1, 0)
    put(row(to), k, -1, 0)
    put(k, row(from), 1, 0)
    put(k, row(to), -1, 0)
    matrix[k]![size] = [volts, 0]
    if (own) put(k, k, -own[0], -own[1])
    if (mutual) put(k, list.length + mutual.branch, -mutual.by[0], -mutual.by[1])
    if (follows) {
      put(k, row(follows.of[0]), -follows.gain, 0)
      put(k, row(follows.of[1]), follows.gain, 0)
    }
  })
  const times = ([a, b]: [number, number], [c, d]: [number, number]): [number, number] => [
    a * c - b * d,
    a * d + b * c,
  ]
  const over = ([a, b]: [number, number], [c, d]: [number, number]): [number, number] => [
    (a * c + b * d) / (c * c + d * d),
    (b * c - a * d) / (c * c + d * d),
  ]
  for (let p = 0; p < size; p++) {
    let best = p
    for (let r = p; r < size; r++)
      if (Math.hypot(...matrix[r]![p]!) > Math.hypot(...matrix[best]![p]!)) best = r
    ;[matrix[p], matrix[best]] = [matrix[best]!, matrix[p]!]
    for (let r = p + 1; r < size; r++) {
      const factor = over(matrix[r]![p]!, matrix[p]![p]!)
      if (factor[0] === 0 && factor[1] === 0) continue
      for (let c = p; c <= size; c++) {
        const [re, im] = times(factor, matrix[p]![c]!)
        matrix[r]![c]![0] -= re
        matrix[r]![c]![1] -= im
      }
    }
  }
  const answer: [number, number][] = Array.from({ length: size }, () => [0, 0])
  for (let r = size - 1; r >= 0; r--) {
    let [re, im] = matrix[r]![size]!
    for (let c = r + 1; c < size; c++) {
      const [a, b] = times(matrix[r]![c]!, answer[c]!)
      re -= a
      im -= b
    }
    answer[r] = over([re, im], matrix[r]![r]!)
  }
  return new Map(list.map((name, index) => [name, answer[index]!]))
}

/** Both solutions agree across every part. Where a whole island floats, only that has a meaning. */
function expectAgrees(
  netlist: Netlist,
  frequencyHz: number,
  signal: string | undefined,
  within = 1e-5,
): void {
  const reference = dense(netlist, frequencyHz, signal)
  const solution = solve(netlist, frequencyHz, signal)
  const theirs = (name: string) => reference.get(name) ?? [0, 0]
  const across = netlist.flatMap((part) => {
    // at DC a capacitor may lie between two islands that float, each where its leakage leaves it
    if ('first' in part || (part.kind === 'capacitor' && frequencyHz === 0)) return []
    const [one, other] = [theirs(part.from), theirs(part.to)]
    const [a, b] = [solution.volts(part.from), solution.volts(part.to)]
    return [{ re: one[0] - other[0], im: one[1] - other[1], mineRe: a.re - b.re, mineIm: a.im - b.im }]
  })
  const scale = Math.max(1e-3, ...across.map(({ re, im }) => Math.hypot(re, im)))
  for (const { re, im, mineRe, mineIm } of across)
    expect(Math.hypot(mineRe - re, mineIm - im) / scale).toBeLessThan(within)
}

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
          windingOhm: 40,
          henry: 20,
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

// ---- the shelf of the demo

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const gear = parseJson(ShelfFile, read('shelf.json'), 'shelf').gear
const shelf = shelfOf(gear)
const bench = parseJson(Patch, read('scenes/1-the-founder-at-the-bench.json'), 'bench')

/** A patch of two boxes and nothing between them. */
function pairOf(out: Gear, from: string, into: Gear, to: string): Patch {
  return {
    ...bench,
    boxes: [
      { id: 'one', gear: out.id, settings: {}, locked: [] },
      { id: 'two', gear: into.id, settings: {}, locked: [] },
    ],
    links: [{ id: 'link', from: { box: 'one', port: from }, to: { box: 'two', port: to }, through: [] }],
  }
}
const portsOf = (way: 'in' | 'out') =>
  gear.flatMap((thing) =>
    thing.ports
      .filter((port) => port.way === way && contactsOf[port.connector as Shape])
      .map((port) => ({ thing, port })),
  )
const pieces = gear.flatMap((thing) => {
  const piece = pieceOfGear(thing.id, thing, {})
  return piece ? [piece] : []
})

/** The two spread the leakage of a floating island over other nodes: 0.01 dB at most. */
const leaky = 1e-3

describe('links made at random from the shelf', () => {
  it('agree with modified nodal analysis, 300 of them, at DC and in sound', { timeout: 120_000 }, () => {
    let solved = 0
    const pick = fc.record({
      out: fc.constantFrom(...portsOf('out')),
      into: fc.constantFrom(...portsOf('in')),
      row: fc.array(fc.constantFrom(...pieces), { maxLength: 4 }),
    })
    fc.assert(
      fc.property(pick, ({ out, into, row }) => {
        const patch = pairOf(out.thing, out.port.id, into.thing, into.port.id)
        const plugged = pluggedLink(patch, patch.links[0]!, shelf)!
        // keep of the row what goes together, so that most links are whole
        const fitting = row.reduce<Piece[]>(
          (kept, piece) =>
            fits(kept.at(-1)?.ends[1] ?? plugged.output, piece.ends[0]!) ? [...kept, piece] : kept,
          [],
        )
        const found = variantsOf({ ...plugged, pieces: fitting, taps: undefined })
        if ('misfit' in found || solved > 900) return
        for (const { netlist } of found.variants) {
          solved++
          expectAgrees(netlist, 0, undefined, leaky)
          for (const signal of signalsOf(netlist))
            for (const frequencyHz of [100, 1000, 10_000]) expectAgrees(netlist, frequencyHz, signal, leaky)
        }
      }),
      { numRuns: 6000 },
    )
    expect(solved).toBeGreaterThanOrEqual(300)
  })
})

describe('the shelf', () => {
  const lapel = shelf.get('fennimore-plug-in-lapel')!
  const phone = shelf.get('saltmarsh-phone')!
  const silent = pairOf(lapel, 'out', phone, 'headset')
  it('tells why a lapel microphone is silent on a phone, and finds the adapter', () => {
    expect(wiringFindings(wiringOf(silent, shelf))[0]).toMatchObject({ severity: 'dead', link: 'link' })
    const [best] = findWays(silent, silent.links[0]!, shelf)
    expect(best!.pieces.map((piece) => piece.gear.id)).toEqual(['three-to-four'])
  })
  it('derives it: with the adapter wired to the other order of contacts there is no way', () => {
    const other = gear.map((thing) =>
      thing.id === 'three-to-four'
        ? {
            ...thing,
            passive: {
              ...thing.passive!,
              wires: [
                ['tip', 'ring'],
                ['sleeve', 'second ring'],
              ] as [string, string][],
            },
          }
        : thing,
    )
    const alone = shelfOf(other.filter(({ id }) => id === 'three-to-four' || !shelf.get(id)!.passive))
    expect(findWays(silent, silent.links[0]!, alone)).toEqual([])
    // on the whole shelf the other order helps only with power of its own, and turns the sound over
    const [way] = findWays(
      silent,
      silent.links[0]!,
      shelfOf(other.filter(({ id }) => id !== 'headset-splitter')),
    )
    expect(way!.pieces.map((piece) => piece.gear.id)).toEqual(['plug-in-supply', 'three-to-four-other-order'])
    expect(way!.report.findings.map((finding) => finding.about)).toContain('polarity')
  })
  it('puts what is owned before what must be bought, and the lesser loss first', () => {
    const link = bench.links.find(({ id }) => id === 'camera-feed')!
    const ways = findWays(bench, link, shelf)
    expect(ways[0]!.pieces.map((piece) => piece.gear.id)).toEqual(['mini-cable-0m5'])
    const missing = ways.map((way) => way.missing)
    expect(missing).toEqual([...missing].sort((one, other) => one - other))
    for (const { report } of ways)
      expect(report.findings.every(({ severity }) => severity === 'note')).toBe(true)
  })
  it('stops when told', () => {
    expect(findWays(bench, bench.links[0]!, shelf, { cancelled: () => true })).toEqual([])
  })
  it('has nothing harmful in the wiring of its scenes, until a plug is moved', () => {
    expect(
      wiringFindings(wiringOf(bench, shelf)).filter(
        ({ severity }) => severity === 'dead' || severity === 'harmful',
      ),
    ).toEqual([])
    const unpowered = applyEdits(
      bench,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' }],
      shelf,
    )
    expect(wiringFindings(wiringOf(unpowered, shelf))[0]).toMatchObject({
      about: 'supply missing',
      severity: 'dead',
      link: 'boom-cable',
    })
    const powered = applyEdits(
      bench,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-2', position: 'on' }],
      shelf,
    )
    expect(wiringFindings(wiringOf(powered, shelf)).map((finding) => finding.about)).toContain(
      'supply shorted',
    )
  })
})
