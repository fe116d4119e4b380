import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  checkGear,
  checkPatch,
  Control,
  Gear,
  hasPosition,
  parse,
  parseJson,
  Patch,
  Position,
  positionName,
  positionsOf,
  ShelfFile,
  shelfOf,
  turned,
} from './index'

const demo = new URL('../../../demo/', import.meta.url)
const text = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const gear = parseJson(ShelfFile, text('shelf.json'), 'the shelf').gear
const shelf = shelfOf(gear)
const scenes = readdirSync(new URL('scenes/', demo)).map((file) =>
  parseJson(Patch, text(`scenes/${file}`), file),
)
const bench = scenes[0]!

describe('the demo', () => {
  it('has at least 24 things, all sound, of every kind the chain needs', () => {
    expect(gear.length).toBeGreaterThanOrEqual(24)
    expect(gear.flatMap(checkGear)).toEqual([])
    expect(new Set(gear.map(({ kind }) => kind)).size).toBeGreaterThanOrEqual(10)
    expect(gear.filter(({ kind }) => kind === 'camera').length).toBeGreaterThanOrEqual(5)
  })
  it('has eight scenes that can be computed, on a shelf of more than sixty things', () => {
    expect(scenes).toHaveLength(8)
    expect(shelf.size).toBeGreaterThan(60)
    for (const patch of scenes) expect(checkPatch(patch, shelf)).toEqual([])
  })
})

describe('controls', () => {
  const knob: Control = {
    kind: 'knob',
    id: 'k',
    name: 'k',
    minimum: -1,
    maximum: 1,
    click: 0.1,
    unit: 'dB',
    initial: 0,
  }
  it('counts positions without rounding dirt', () => {
    expect(positionsOf(knob)).toHaveLength(21)
    expect(positionsOf(knob)).toContain(0.3)
  })
  it('turns by clicks, stops at the ends, and stands only where it can', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20 }), fc.integer({ min: -50, max: 50 }), (start, steps) => {
        const to = turned(knob, positionsOf(knob)[start]!, steps)
        expect(hasPosition(knob, to)).toBe(true)
        expect(positionsOf(knob).indexOf(to)).toBe(Math.min(20, Math.max(0, start + steps)))
      }),
    )
    expect(hasPosition(knob, 0.05)).toBe(false)
    expect(hasPosition(knob, 0.1 + 0.2)).toBe(false)
    expect(hasPosition(knob, 1.1)).toBe(false)
  })
  it('stands at a click where another program wrote it a hair beside', () => {
    const beside = { ...knob, initial: 0.1 + 0.2 }
    expect(positionsOf(knob)).toContain(Position.parse(0.1 + 0.2))
    expect(hasPosition(knob, Position.parse(-0.7000000004))).toBe(true)
    expect(hasPosition(knob, Position.parse(0.30001))).toBe(false)
    expect(positionsOf(knob)).toContain(Control.parse(beside).initial)
  })
  it('names positions as a box would mark them', () => {
    expect(positionName(knob, 0.5)).toBe('+0.5 dB')
    expect(positionName({ kind: 'scale', id: 's', name: 's', steps: 32, initial: 0 }, 3)).toBe('3 of 31')
  })
})

/** The same patch with something changed deep inside. */
const bent = (change: (patch: Record<string, any>) => void): unknown => {
  const copy = structuredClone(bench) as Record<string, any>
  change(copy)
  return copy
}
const refusal = (act: () => unknown): string => {
  try {
    act()
  } catch (error) {
    return (error as Error).message
  }
  return 'accepted'
}

describe('bad input', () => {
  it.each([
    ['an unknown field', (p: any) => (p.boxes[0].colour = 'red'), /boxes\[0\]: unknown field "colour"/],
    [
      'a note of 100,000 characters',
      (p: any) => (p.note = 'x'.repeat(100_000)),
      /note: must be at most 4000 characters; shorten it/,
    ],
    ['NaN', (p: any) => (p.brief.room.volumeM3 = NaN), /brief\.room\.volumeM3/],
    [
      'a figure out of physical range',
      (p: any) => (p.brief.room.reverberationS = -1),
      /reverberationS: must be at least 0\.05/,
    ],
    ['a missing part', (p: any) => delete p.brief.room, /brief\.room: is missing/],
    ['a version of tomorrow', (p: any) => (p.version = 3), /version: must be "2"/],
  ])('%s is refused with its place', (_, change, expected) => {
    expect(refusal(() => parse(Patch, bent(change), 'The patch'))).toMatch(expected)
  })
  it('reads past a byte-order mark and the line that names a schema', () => {
    const file = readFileSync(new URL('../../../docs/example-patch.json', import.meta.url), 'utf8')
    expect(file).toMatch(/"\$schema": "schema\/patch\.schema\.json"/)
    expect(parseJson(Patch, `\uFEFF${file}`, 'example').boxes.length).toBeGreaterThan(1)
  })
  it('refuses an input of 0 ohm, which would short what is plugged in; an output may have it', () => {
    const gun = gear.find(({ ports }) =>
      ports.some(({ direction, connector }) => direction === 'in' && connector === 'xlr-3'),
    )!
    const withOhm = (direction: 'in' | 'out', ohm: number) =>
      checkGear({
        ...gun,
        ports: gun.ports.map((port) =>
          port.direction === direction && port.connector === 'xlr-3' ? { ...port, impedanceOhm: ohm } : port,
        ),
      })
    expect(withOhm('in', 0).join()).toMatch(/has 0 ohm, which would short whatever is plugged in/)
    expect(withOhm('in', 1)).toEqual([])
    expect(withOhm('out', 0)).toEqual([])
  })
  it('refuses a contact that a connector has not, and says which it has', () => {
    const lead = (wires: [string, string][]) =>
      checkGear(
        Gear.parse({
          id: 'lead',
          name: 'Lead',
          maker: 'Saltmarsh',
          kind: 'cable',
          passive: { from: 'xlr-3', to: 'mini-3', wires },
        }),
      )
    expect(
      lead([
        ['2', 'tip'],
        ['1', 'sleeve'],
      ]),
    ).toEqual([])
    expect(lead([['2', 'tipp']])).toEqual([
      'Lead (lead): "tipp" at end 1 is no contact of 3.5 mm, three contacts; it has tip, ring, sleeve.',
    ])
  })
  it('says that a text is not JSON, NaN included', () => {
    expect(refusal(() => parseJson(Patch, '{"name": NaN}', 'patch.json'))).toMatch(
      /^patch.json was refused: it is not JSON/,
    )
  })
  it.each([
    ['a missing box', (p: any) => (p.links[0].from.box = 'ghost'), /names a box "ghost" that is missing/],
    ['gear nobody has', (p: any) => (p.boxes[0].gear = 'ghost'), /neither in the file nor on the shelf/],
    ['two plugs in one socket', (p: any) => (p.links[3].to = p.links[0].to), /a socket takes one plug/],
    [
      'a position the box does not have',
      (p: any) => (p.boxes[4].settings['gain-1'] = 71),
      /cannot be set to "71"/,
    ],
    [
      'a wrong way round',
      (p: any) => (p.links[0].from = { box: 'recorder', port: 'in-1' }),
      /needs an output/,
    ],
    [
      'a place that is not in the brief',
      (p: any) => (p.boxes[0].place = 'roof'),
      /"roof", which is not in the brief/,
    ],
    [
      'a loop',
      (p: any) =>
        p.links.push({
          id: 'back',
          from: { box: 'recorder', port: 'phones' },
          to: { box: 'transmitter', port: 'in' },
          pieces: [],
        }) && p.links.splice(1, 1),
      /runs in a circle/,
    ],
  ])('%s is named', (_, change, expected) => {
    expect(checkPatch(bent(change) as Patch, shelf).join(' ')).toMatch(expected)
  })
  it('finds what is inconsistent inside a thing', () => {
    const thing = Gear.parse({
      id: 'odd',
      name: 'Odd',
      maker: 'Tarnwick',
      kind: 'recorder',
      ports: [{ id: 'in', name: 'in', direction: 'in', connector: 'mini-3' }],
      strips: [
        {
          id: 'one',
          from: { port: 'in', channel: 'right' },
          stages: [
            { kind: 'digital-gain', gainDb: 3 },
            { kind: 'gain', gainDb: { control: 'nowhere', perUnit: 1 } },
          ],
          to: [{ port: 'out' }],
        },
      ],
    })
    const says = checkGear(thing).join(' ')
    for (const expected of [
      /right channel of "in"/,
      /no control "nowhere"/,
      /port "out" that is not there/,
      /cannot take a signal in volts/,
    ])
      expect(says).toMatch(expected)
  })
})

describe('controls', () => {
  const knob = (click: number): Control => ({
    kind: 'knob',
    id: 'fine',
    name: 'Fine',
    minimum: -20,
    maximum: 20,
    click,
    unit: 'dB',
    initial: 0,
  })
  const box = (control: Control) =>
    Gear.parse({
      id: 'odd',
      name: 'Odd',
      maker: 'Tarnwick',
      kind: 'mixer',
      controls: [control],
      ports: [{ id: 'in', name: 'in', direction: 'in', connector: 'fixed' }],
      strips: [{ id: 'one', from: { port: 'in' }, stages: [] }],
    })
  it('may have ten thousand positions, and no more', () => {
    expect(positionsOf(knob(0.005))).toHaveLength(8001)
    expect(checkGear(box(knob(0.005)))).toEqual([])
    expect(checkGear(box(knob(0.001))).join()).toMatch(/40001 positions; use a coarser click/)
    expect(turned(knob(0.005), 0, 1)).toBe(0.005)
  })
  it('may not change a level by more than any box does, at either end', () => {
    const amplifier = (perUnit: number, offset = 0) => {
      const { controls, ports, ...rest } = box(knob(1))
      const gainDb = { control: controls[0]!.id, perUnit, offset }
      const stages = [{ kind: 'gain' as const, gainDb }]
      return checkGear(
        Gear.parse({ ...rest, controls, ports, strips: [{ id: 'one', from: { port: 'in' }, stages }] }),
      )
    }
    expect(amplifier(1)).toEqual([])
    expect(amplifier(7.5)).toEqual([])
    expect(amplifier(81).join()).toMatch(/would change the level by .1620\.0 dB at -20; .* dB for each mark/)
    expect(amplifier(-1, 140).join()).toMatch(/by 160\.0 dB at -20/)
  })
})
