import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { pluggedLink, reportOf } from '../../circuit'
import { levelsOfPatch } from '../../levels'
import { balance, settingsOf } from '../../balance'
import { applyEdits } from '../../edits'
import {
  checkGear,
  checkPatch,
  emptyOf,
  type FormSchema,
  type Gear,
  type Patch,
  variantsOf,
} from '../../model'
import { scene, shelf } from '../../tests/demo'
import { firstAnswers, OwnBox, ownBox } from './index'

const level = fc.oneof(
  fc
    .tuple(fc.integer({ min: -40, max: 20 }), fc.integer({ min: 1, max: 60 }), fc.constantFrom(0.5, 1, 2, 6))
    .map(([from, width, step]) => ({ by: 'decibels' as const, from, to: from + width, step })),
  fc.integer({ min: 2, max: 100 }).map((steps) => ({ by: 'scale' as const, steps })),
  fc.constant({ by: 'names' as const, names: ['low', 'standard', 'high'] }),
  fc.constant({ by: 'itself' as const }),
)
const plug = fc.constantFrom('xlr-3', 'ta-3', 'mini-3', 'mini-4', 'jack-2', 'jack-3', 'rca')
const answers = fc.oneof(
  fc.record({
    kind: fc.constant('camera'),
    name: fc.constant('A camera'),
    input: fc.constantFrom('mini-3', 'mini-4', 'xlr-3', 'none'),
    channels: fc.constantFrom(1, 2),
    level,
    automaticToo: fc.boolean(),
    power: fc.constantFrom('none', 'always', 'switched'),
    builtIn: fc.boolean(),
    bits: fc.constantFrom(16, 24),
  }),
  fc.record({
    kind: fc.constant('microphone'),
    name: fc.constant('A microphone'),
    mount: fc.constantFrom('boom', 'worn', 'hand', 'camera', 'table'),
    plug,
    power: fc.constantFrom('phantom', 'plug-in', 'battery', 'none'),
    pattern: fc.double({ min: 0, max: 1, noNaN: true }),
  }),
  fc.record({
    kind: fc.constant('recorder'),
    name: fc.constant('A recorder'),
    inputs: fc.integer({ min: 1, max: 8 }),
    input: fc.constantFrom('xlr-3', 'mini-3'),
    level,
    phantom: fc.boolean(),
    output: fc.constantFrom('none', 'mini-3', 'xlr-3', 'jack-3'),
    floating: fc.boolean(),
  }),
  fc.record({
    kind: fc.constantFrom('preamplifier', 'mixer'),
    name: fc.constant('A mixer'),
    inputs: fc.integer({ min: 1, max: 8 }),
    input: fc.constantFrom('xlr-3', 'mini-3'),
    level,
    phantom: fc.boolean(),
    output: fc.constantFrom('mini-3', 'xlr-3', 'jack-3'),
    outputLevel: fc.constantFrom('mic', 'line'),
  }),
  fc.record({
    kind: fc.constant('transmitter'),
    name: fc.constant('A transmitter'),
    input: fc.constantFrom('mini-3', 'ta-3', 'xlr-3'),
    level,
    power: fc.boolean(),
    over: fc.constantFrom('digital', 'analogue'),
    carrierMhz: fc.integer({ min: 400, max: 2480 }),
    recordsInside: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('receiver'),
    name: fc.constant('A receiver'),
    output: fc.constantFrom('mini-3', 'xlr-3'),
    outputLevel: fc.constantFrom('mic', 'line'),
    over: fc.constantFrom('digital', 'analogue'),
    carrierMhz: fc.integer({ min: 400, max: 2480 }),
  }),
  fc.record({
    kind: fc.constantFrom('cable', 'pad'),
    name: fc.constant('A lead'),
    from: plug,
    to: plug,
    lengthM: fc.integer({ min: 0, max: 50 }),
    lossDb: fc.integer({ min: 0, max: 60 }),
  }),
)

/** A microphone into a camera, both made here, in the founder's scene. */
function ownChain(microphone: Gear, camera: Gear, lead?: Gear): Patch {
  const bench = scene('1-the-founder-at-the-bench')
  const place = bench.brief.places[0]!.id
  return {
    ...bench,
    gear: [microphone, camera, ...(lead ? [lead] : [])],
    boxes: [
      { id: 'mic', gear: microphone.id, place, settings: {}, locked: [] },
      { id: 'cam', gear: camera.id, settings: {}, locked: [] },
    ],
    links: [
      {
        id: 'plug',
        from: { box: 'mic', port: 'out' },
        to: { box: 'cam', port: camera.ports[0]!.id },
        pieces: lead ? [{ id: 'lead', gear: lead.id, settings: {}, locked: [] }] : [],
      },
    ],
  }
}

describe('a box of one’s own', () => {
  it('can be computed with, whatever was answered', () => {
    fc.assert(
      fc.property(answers, (given) => {
        const asked = OwnBox.safeParse(given)
        // power that its plug cannot bring is refused with a sentence
        if (!asked.success) {
          expect(asked.error.issues[0]?.message).toMatch(/^(phantom|plug-in) power/)
          return
        }
        const made = ownBox(asked.data, 'made')
        expect(checkGear(made)).toEqual([])
        expect(made.owned).toBe(1)
        // every control reaches something
        const text = JSON.stringify([made.strips, made.ports])
        for (const { id } of made.controls) expect(text).toContain(`"control":"${id}"`)
      }),
      { numRuns: 300 },
    )
  })
  it('of the first answers gives a chain that records, and Balance can set it', () => {
    const microphone = ownBox(
      OwnBox.parse({ ...firstAnswers.microphone, plug: 'mini-3', power: 'plug-in', mount: 'worn' }),
      'my-lapel',
    )
    const camera = ownBox(firstAnswers.camera, 'my-camera')
    const patch = ownChain(microphone, camera)
    expect(checkPatch(patch, shelf)).toEqual([])
    const found = balance(patch, shelf)!
    const levels = levelsOfPatch(applyEdits(patch, settingsOf(found.changes), shelf), shelf)
    const alive = levels.runs.filter(({ stop }) => !stop)
    expect(alive.length).toBeGreaterThan(0)
    expect(Math.min(...alive.map(({ speechToNoiseDb }) => speechToNoiseDb))).toBeGreaterThan(10)
    // what nobody knows is said
    expect(levels.assumptions.length).toBeGreaterThan(3)
  })
  it.each(['digital', 'analogue'] as const)(
    'of both ends of a %s radio carries a lapel into a camera',
    (over) => {
      const made = [
        ownBox(
          OwnBox.parse({ ...firstAnswers.microphone, plug: 'mini-3', power: 'plug-in', mount: 'worn' }),
          'lapel',
        ),
        ownBox(OwnBox.parse({ ...firstAnswers.transmitter, over }), 'sender'),
        ownBox(OwnBox.parse({ ...firstAnswers.receiver, over, outputLevel: 'mic' }), 'receiver'),
        ownBox(firstAnswers.camera, 'camera'),
      ]
      const bench = scene('1-the-founder-at-the-bench')
      const box = (gear: string) => ({ id: gear, gear, settings: {}, locked: [] })
      const link = (from: string, out: string, to: string, into: string, pieces: string[] = []) => ({
        id: `${from}-${to}`,
        from: { box: from, port: out },
        to: { box: to, port: into },
        pieces: pieces.map((gear) => ({ id: gear, gear, settings: {}, locked: [] })),
      })
      const camera = made[3]!.ports.find(
        ({ direction, connector }) => direction === 'in' && connector === 'mini-3',
      )!
      const patch: Patch = {
        ...bench,
        gear: made,
        boxes: [
          { ...box('lapel'), place: bench.brief.places[1]!.id },
          box('sender'),
          box('receiver'),
          box('camera'),
        ],
        links: [
          link('lapel', 'out', 'sender', 'in'),
          link('sender', 'air', 'receiver', 'air'),
          link('receiver', 'out', 'camera', camera.id, ['mini-cable-0m5']),
        ],
      }
      expect(checkPatch(patch, shelf)).toEqual([])
      const set = applyEdits(patch, settingsOf(balance(patch, shelf)!.changes), shelf)
      const [run] = levelsOfPatch(set, shelf).runs.filter(
        ({ end, entry }) => end.box === 'camera' && entry.part === 'lapel',
      )
      expect(run!.stop).toBeUndefined()
      expect(run!.speechToNoiseDb).toBeGreaterThan(15)
      expect(run!.tightest!.ceiling.headroomDb).toBeGreaterThan(0)
      // another carrier, and nothing arrives
      const other = { ...made[2]!, radio: { ...made[2]!.radio!, carrierMhz: 520 } }
      const apart = levelsOfPatch({ ...set, gear: [made[0]!, made[1]!, other, made[3]!] }, shelf)
      expect(
        apart.runs.find(({ end, entry }) => end.box === 'camera' && entry.part === 'lapel')!.stop,
      ).toBeDefined()
    },
  )
  it('of a pad loses what it says into an ordinary input, whatever its plug', () => {
    const source = ownBox(firstAnswers.recorder, 'source')
    const camera = ownBox(firstAnswers.camera, 'camera')
    for (const to of ['mini-3', 'rca', 'jack-2'] as const) {
      const load: Gear = {
        ...camera,
        ports: [{ ...camera.ports[0]!, connector: to, channels: 1, impedanceOhm: 4700, supplies: undefined }],
        strips: camera.strips.slice(0, 1),
      }
      const gainThrough = (kind: 'cable' | 'pad', lossDb: number) => {
        const lead = ownBox(OwnBox.parse({ ...firstAnswers[kind], from: 'mini-3', to, lossDb }), 'lead')
        const patch = ownChain(source, load, lead)
        const { reaches } = reportOf(pluggedLink(patch, patch.links[0]!, shelf)!).variants[0]!.facts
        return Math.max(...reaches.map(({ db }) => db))
      }
      for (const lossDb of [10, 25, 40])
        expect(gainThrough('cable', 0) - gainThrough('pad', lossDb)).toBeCloseTo(lossDb, 0)
    }
  })
  it('is refused where its level reaches no higher than it begins, and begins with one that does', () => {
    const camera = { ...firstAnswers.camera, level: { by: 'decibels', from: 0, to: 0, step: 1 } }
    expect(OwnBox.safeParse(camera).error?.issues[0]?.message).toMatch(/must reach higher than it begins/)
    const begun = variantsOf(z.toJSONSchema(OwnBox, { io: 'input', unrepresentable: 'any' }) as FormSchema)!
      .flatMap(({ properties }) => variantsOf(properties?.['level'] ?? {}) ?? [])
      .map(emptyOf)
    expect(begun.length).toBeGreaterThan(10)
    for (const each of begun) expect(OwnBox.safeParse({ ...camera, level: each }).success).toBe(true)
  })
  it('keeps what was given of a microphone, and marks the rest as typical', () => {
    const made = ownBox(OwnBox.parse({ ...firstAnswers.microphone, sensitivityDbvPa: -32 }), 'mine')
    const [capsule] = made.strips[0]!.stages
    expect(capsule).toMatchObject({
      sensitivityDbvPa: { value: -32, from: 'datasheet' },
      selfNoiseDba: { from: 'typical' },
    })
  })
})
