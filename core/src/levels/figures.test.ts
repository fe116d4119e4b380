import { describe, expect, it } from 'vitest'
import { checkPatch, type GearInput, Patch } from '../model'
import { feed, linePatch } from '../tests/line-patch'
import { levelsOfPatch, type Run } from './index'

type StageInput = NonNullable<GearInput['strips']>[number]['stages'][number]

/** Every figure here is worked out by hand from those of the gear beside it. */

/** A thing with one row of stages from each input, and what it records or gives. */
const box = (
  id: string,
  kind: GearInput['kind'],
  rows: { in: string; stages: StageInput[]; out?: string; bus?: string; from?: string }[],
  ports: [string, 'in' | 'out'][],
): GearInput => ({
  id,
  name: id,
  maker: 'Tarnwick',
  kind,
  ports: ports.map(([port, direction]) => ({ id: port, name: port, direction, connector: 'fixed' as const })),
  strips: rows.map((row, index) => ({
    id: `row-${index}`,
    from: row.from ? { bus: row.from } : { port: row.in },
    stages: row.stages,
    to: row.out ? [{ port: row.out }] : row.bus ? [{ bus: row.bus }] : [],
  })),
})
const recording = (track: string): StageInput => ({ kind: 'recording', name: track, track })

describe('a feed through an amplifier into a recorder', () => {
  const amplifier = box(
    'amplifier',
    'preamplifier',
    [
      {
        in: 'in',
        stages: [{ kind: 'gain', gainDb: 20, inputNoiseDbuA: -110, outputCeilingDbu: 15 }],
        out: 'out',
      },
    ],
    [
      ['in', 'in'],
      ['out', 'out'],
    ],
  )
  const recorder = box(
    'recorder',
    'recorder',
    [
      {
        in: 'in',
        stages: [
          { kind: 'gain', name: 'First stage', gainDb: -6, inputCeilingDbu: 18 },
          { kind: 'converter-in', fullScaleDbu: 12, noiseDbfsA: -100 },
          recording('left'),
        ],
      },
    ],
    [['in', 'in']],
  )
  const [run] = levelsOfPatch(
    linePatch([feed('desk', -30)], {
      gear: [amplifier, recorder],
      boxes: [
        { id: 'amp', gear: 'amplifier', source: 'desk' },
        { id: 'rec', gear: 'recorder' },
      ],
      links: [{ id: 'lead', from: { box: 'amp', port: 'out' }, to: { box: 'rec', port: 'in' } }],
    }),
    new Map(),
  ).runs as [Run]
  const point = (name: string) => run.points.find((each) => each.name === name)!

  it('is named by its source, where it enters and where it ends', () => {
    expect(run.id).toBe('desk>amp>rec.left')
    expect(run.entry).toEqual({ part: 'amp', name: 'amplifier' })
    expect(run.end).toMatchObject({
      box: 'rec',
      boxName: 'recorder',
      kind: 'recording',
      track: 'left',
      gearKind: 'recorder',
    })
  })
  it('has its levels at every moment, 10 dB apart, peaks 10.99 dB over them', () => {
    // a crest of 14 dB over the mean is 10.99 over a sine of the same power
    expect(run.atSource).toMatchObject({
      quietest: -40,
      typical: -30,
      loudest: -20,
      peak: expect.closeTo(-9.01, 2),
    })
    expect(run.atSource).toMatchObject({ placeNoise: -100, echo: -Infinity, wind: -Infinity })
    const input = point('First stage')
    expect(input.rmsDb).toEqual({
      quietest: expect.closeTo(-26, 6),
      typical: expect.closeTo(-16, 6),
      loudest: expect.closeTo(-6, 6),
    })
    expect(input.peakDb).toEqual({
      quietest: expect.closeTo(-15.01, 2),
      typical: expect.closeTo(-5.01, 2),
      loudest: expect.closeTo(4.99, 2),
    })
    expect(input.gainFromSourceDb).toBeCloseTo(14, 6)
    expect(run.typicalDb).toBeCloseTo(-28, 6)
    expect(run.peakDb).toBeCloseTo(-7.01, 2)
  })
  it('has the noise of each box by power, and what each adds, at the source', () => {
    const sum = (...db: number[]) => 10 * Math.log10(db.reduce((all, each) => all + 10 ** (each / 10), 0))
    // the amplifier's -110 at its input; the converter's -100 dBFS is -88 dBu, -102 at the source
    expect(point('First stage').noiseDb).toBeCloseTo(-110 + 14, 6)
    expect(point('First stage').noiseWithPlaceDb).toBeCloseTo(sum(-110, -100) + 14, 6)
    expect(run.noiseDb).toBeCloseTo(sum(-110 + 14 - 12, -100), 6)
    expect(run.overBoxesDb).toBeCloseTo(-28 - sum(-108, -100), 6)
    expect(run.speechToNoiseDb).toBeCloseTo(-28 - sum(-108, -100, -98), 6)
    const converter = run.points.find(({ kind }) => kind === 'converter-in')!
    expect(converter.ownNoiseAtSourceDb).toBeCloseTo(-102, 6)
    expect(converter.noiseAtSourceDb).toBeCloseTo(sum(-110, -102), 6)
    expect(converter.pauseNoiseAtSourceDb).toBeCloseTo(sum(-110, -102, -100), 6)
    expect(run.shares.map(({ atSourceDb, share }) => [atSourceDb, share])).toEqual([
      [expect.closeTo(-102, 6), expect.closeTo(10 ** 0.8 / (1 + 10 ** 0.8), 6)],
      [expect.closeTo(-110, 6), expect.closeTo(1 / (1 + 10 ** 0.8), 6)],
    ])
    expect(run.pauseRiseDb).toBe(0)
  })
  it('meets its ceilings in this order', () => {
    const headroom = Object.fromEntries(
      run.points.flatMap(({ part, name, ceilings }) =>
        ceilings.map(({ at, headroomDb, atSourceDb }) => [`${part} ${name} ${at}`, [headroomDb, atSourceDb]]),
      ),
    )
    expect(headroom).toEqual({
      // loudest peak -9.01 at the source
      'amp Amplifier output': [expect.closeTo(15 - 10.99, 2), expect.closeTo(-5, 6)],
      'rec First stage input': [expect.closeTo(18 - 10.99, 2), expect.closeTo(-2, 6)],
      'rec Converter input': [expect.closeTo(12 - 4.99, 2), expect.closeTo(-2, 6)],
      // full scale again, as the file has it
      'rec left input': [expect.closeTo(12 - 4.99, 2), expect.closeTo(-2, 6)],
    })
    expect(run.points[run.tightest!.point]!.part).toBe('amp')
    expect(run.tightest!.ceiling.onset).toBe(false)
  })
})

describe('one feed by two ways into one track', () => {
  const player = box(
    'player',
    'player' as GearInput['kind'],
    ['a', 'b'].map((out) => ({
      in: 'in',
      stages: [{ kind: 'gain' as const, gainDb: out === 'a' ? 0 : -6.0206 }],
      out,
    })),
    [
      ['in', 'in'],
      ['a', 'out'],
      ['b', 'out'],
    ],
  )
  const late = (delayMs: number) =>
    box(
      'late',
      'radio',
      [{ in: 'in', stages: [{ kind: 'radio', delayMs, ceilingDbu: 20, dynamicRangeDb: 120 }], out: 'out' }],
      [
        ['in', 'in'],
        ['out', 'out'],
      ],
    )
  const mixer = box(
    'mixer',
    'recorder',
    [
      { in: 'one', stages: [], bus: 'mix' },
      { in: 'two', stages: [], bus: 'mix' },
      {
        in: '',
        from: 'mix',
        stages: [
          // how late both come makes no difference
          { kind: 'radio', delayMs: 4, ceilingDbu: 20, dynamicRangeDb: 120 },
          { kind: 'converter-in', fullScaleDbu: 0, noiseDbfsA: -100 },
          recording('mix'),
        ],
      },
    ],
    [
      ['one', 'in'],
      ['two', 'in'],
    ],
  )
  const levels = (delayMs: number) => {
    const patch = linePatch([feed('song', -20)], {
      gear: [player, late(delayMs), mixer],
      boxes: [
        { id: 'player', gear: 'player', source: 'song' },
        { id: 'late', gear: 'late' },
        { id: 'mixer', gear: 'mixer' },
      ],
      links: [
        { id: 'near', from: { box: 'player', port: 'a' }, to: { box: 'mixer', port: 'one' } },
        { id: 'far', from: { box: 'player', port: 'b' }, to: { box: 'late', port: 'in' } },
        { id: 'on', from: { box: 'late', port: 'out' }, to: { box: 'mixer', port: 'two' } },
      ],
    })
    return levelsOfPatch(patch, new Map())
  }
  it('adds up by pressure when both come at once, and is named by its ways', () => {
    const { runs } = levels(0)
    expect(runs.map(({ id }) => id)).toEqual(['song>player>mixer.mix', 'song>player>mixer.mix#2'])
    expect(runs[0]!.typicalDb).toBeCloseTo(-20 + 20 * Math.log10(1.5), 3)
    expect(runs[0]!.points.find(({ joinedDb }) => joinedDb !== undefined)!.joinedDb).toBeCloseTo(
      20 * Math.log10(1.5),
      3,
    )
    expect(runs[0]!.byEntry).toEqual({ db: expect.closeTo(20 * Math.log10(1.5) - 20, 3), sign: 1 })
  })
  it('knows how much later the second comes, and how loud', () => {
    const [run] = levels(15).runs as [Run]
    expect([...run.ways].sort((one, other) => one.laterMs - other.laterMs)).toEqual([
      { db: expect.closeTo(-20, 3), laterMs: 0, sign: 1 },
      { db: expect.closeTo(-26.02, 2), laterMs: expect.closeTo(15, 6), sign: 1 },
    ])
    // 15 ms apart they add by power
    expect(run.typicalDb).toBeCloseTo(-20 + 10 * Math.log10(1.25), 1)
  })
})

describe('a voice in a loud place', () => {
  const gun: GearInput = {
    id: 'gun',
    name: 'Gun',
    maker: 'Oriel & Thwaite',
    kind: 'microphone',
    ports: [
      { id: 'air', name: 'front', direction: 'in', connector: 'air' },
      { id: 'out', name: 'out', direction: 'out', connector: 'fixed' },
    ],
    strips: [
      {
        id: 'capsule',
        from: { port: 'air' },
        stages: [
          { kind: 'transducer', sensitivityDbvPa: -36.22, selfNoiseDba: 14, maximumDbSpl: 118, pattern: 1 },
        ],
        to: [{ port: 'out' }],
      },
    ],
  }
  const recorder = box(
    'recorder',
    'recorder',
    [{ in: 'in', stages: [{ kind: 'converter-in', fullScaleDbu: 0, noiseDbfsA: -120 }, recording('left')] }],
    [['in', 'in']],
  )
  const patch = Patch.parse({
    format: 'iron-hush/patch',
    version: 2,
    name: 'loud place',
    brief: {
      sources: [
        {
          kind: 'speech',
          id: 'rider',
          name: 'rider',
          levelsDba: { quietest: 60, typical: 70, loudest: 80 },
          crestDb: 14,
        },
      ],
      places: [{ id: 'chest', name: 'chest', hears: [{ source: 'rider', distanceM: 0.5 }] }],
      picture: { framing: 'face', focalLengthMm: 24, sensor: 'APS-C' },
      room: { name: 'road', outdoors: true, volumeM3: 100, reverberationS: 0.5 },
      noises: [{ id: 'engine', name: 'engine', levelDba: 80, loudestDba: 100, crestDb: 15 }],
    },
    gear: [gun, recorder],
    boxes: [
      { id: 'mic', gear: 'gun', place: 'chest' },
      { id: 'rec', gear: 'recorder' },
    ],
    links: [{ id: 'lead', from: { box: 'mic', port: 'out' }, to: { box: 'rec', port: 'in' } }],
  })
  it('is under it, and what is loudest of the place meets the ceiling first', () => {
    expect(checkPatch(patch, new Map())).toEqual([])
    const [run] = levelsOfPatch(patch, new Map()).runs as [Run]
    // half a metre is 6.02 dB more than at one
    expect(run.atSource).toMatchObject({
      typical: expect.closeTo(76.02, 2),
      placeNoise: expect.closeTo(80, 6),
    })
    expect(run.speechToNoiseDb).toBeCloseTo(-3.98, 2)
    // -51.98 dBFS over its self-noise, at -114, and the converter's
    expect(run.overBoxesDb).toBeCloseTo(-51.98 - 10 * Math.log10(10 ** -11.4 + 10 ** -12), 2)
    const capsule = run.points.find(({ kind }) => kind === 'transducer')!
    // -36.22 dBV/Pa is -34 dBu at 94 dB SPL; 100 dB(A) of even noise with its crest of 15 dB, less 3.01 for a sine
    const placePeakDb = 100 + 15 - 3.01 - 94 - 34
    expect(Math.abs(capsule.placePeakDb - placePeakDb)).toBeLessThan(1.5)
    expect(capsule.wholePeakDb).toBeGreaterThan(capsule.placePeakDb)
    expect(capsule.wholePeakDb).toBeGreaterThan(capsule.peakDb.loudest)
    expect(capsule.noiseDb).toBeCloseTo(14 - 94 - 34, 2)
    expect(capsule.noiseWithPlaceDb).toBeCloseTo(80 - 94 - 34, 2)
    expect(run.shares.map(({ share }) => share)[0]).toBeGreaterThan(0.5)
  })
})
