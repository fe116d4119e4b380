import { describe, expect, it } from 'vitest'
import { readFileSync } from 'node:fs'
import { applyEdits, type Edit } from '../edits'
import { type GearInput, Patch, parseJson, Plan, PeakTarget, ShelfFile, shelfOf } from '../model'
import {
  askedOf,
  columnsOf,
  findingsOf,
  levelsOfPatch,
  outsideDb,
  type Run,
  wholePeakAtSourceDb,
} from '../levels'
import { foundWell, levelWords, verdictOf } from './index'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scene = (file: string) => parseJson(Patch, read(`scenes/${file}.json`), file)
const bench = scene('1-the-founder-at-the-bench')
const pour = scene('2-the-pour')
const tuning = scene('3-the-tuning')

const after = (patch: Patch, ...edits: Edit[]) => applyEdits(patch, edits, shelf)
const findings = (patch: Patch) =>
  findingsOf(levelsOfPatch(patch, shelf), patch).map((finding) => ({ ...finding, ...levelWords(finding) }))
const set = (part: string, control: string, position: number | string): Edit => ({
  kind: 'set control',
  part,
  control,
  position,
})
const runTo = (patch: Patch, end: string) =>
  levelsOfPatch(patch, shelf).runs.find(({ id }) => id.endsWith(`>${end}`))!
const text = (patch: Patch, end: string) =>
  verdictOf(runTo(patch, end), patch.plan)
    .map((words) => words.text)
    .join('')

describe('what is said of a run', () => {
  it('names the ceiling that is passed, its shape, the place and the excess', () => {
    expect(text(tuning, 'camera.left')).toMatch(
      /^Distorted: the loudest moment bends at Camera, first amplifier, 19\.\d dB too hot/,
    )
  })
  it('speaks of speech only where somebody speaks', () => {
    const sentenceOf = (kind: 'speech' | 'strike') => {
      const run = runTo(tuning, 'camera.left')
      const heard = { ...run, source: { ...run.source, kind, name: 'the bell' }, speechToNoiseDb: -4 } as Run
      return verdictOf(heard, tuning.plan)
        .map((words) => words.text)
        .join('')
    }
    expect(sentenceOf('speech')).toMatch(/Speech-to-noise .* louder than the voice/)
    expect(sentenceOf('strike')).toMatch(/Signal-to-noise .* louder than the bell/)
  })
  it('cannot be talked out of a bent front end by turning the level behind it down', () => {
    const lower = after(tuning, set('camera', 'level', 0))
    expect(runTo(lower, 'camera.left').tightest!.ceiling.headroomDb).toBeCloseTo(
      runTo(tuning, 'camera.left').tightest!.ceiling.headroomDb,
      9,
    )
    expect(runTo(lower, 'camera.left').peakDb).toBeLessThan(runTo(tuning, 'camera.left').peakDb)
  })
  it('blames the place where the place is to blame', () => {
    expect(text(pour, 'camera.left')).toMatch(/limited by the place and not by the boxes/)
    // where the boxes make a third of the noise, they are not acquitted
    expect(text(bench, 'transmitter.inside')).toMatch(/limited by the place more than by the boxes/)
    expect(
      findings(pour).some(({ severity, what }) => severity === 'note' && /The place limits/.test(what)),
    ).toBe(true)
  })
  it('sends for a cover where the noise of the place is wind', () => {
    const yard = scene('5-words-over-the-yard')
    const remedies = (patch: Patch) =>
      findings(patch)
        .filter(({ code }) => code === 'place' || code === 'under noise')
        .map(({ remedy }) => remedy)
        .join(' ')
    const bare = after(
      yard,
      { kind: 'cover box', box: 'table', cover: 'none' },
      { kind: 'change brief', to: { wind: 'gusts' } },
    )
    expect(remedies(bare)).toMatch(/Most of it is wind: cover the microphone/)
    expect(remedies(yard)).not.toMatch(/wind/)
    expect(runTo(bare, 'camera.left').atSource.wind).toBeGreaterThan(runTo(yard, 'camera.left').atSource.wind)
  })
  it('says what automatic gain does to the pauses, and stops saying it when the level is set by hand', () => {
    const automatic = after(bench, set('camera', 'gain-mode', 'auto'))
    const says = (patch: Patch) =>
      findings(patch).filter(({ what }) => /In pauses automatic gain lifts/.test(what))
    expect(says(automatic).length).toBeGreaterThan(0)
    expect(says(bench)).toEqual([])
  })
  it('warns of ears before they are harmed', () => {
    const loud = after(bench, set('recorder', 'phones', 0), set('recorder', 'gain-1', 60))
    const [worst] = findings(loud).filter(({ what }) => /at the ear from/i.test(what))
    expect(worst).toMatchObject({ severity: 'harmful', subject: { part: 'phones' } })
    expect(worst!.why).toMatch(/does not come back/)
  })
  it('claims no more than was looked at where nothing is wrong', () => {
    const run = runTo(tuning, 'camera.left')
    const asked = askedOf(tuning.plan, [{ ...run.end, automatic: false }])[0]
    expect(foundWell(run, tuning.plan, asked)[1]).toMatch(/^Its peaks, .* lie in the window/)
    const free = {
      ...run,
      tightest: undefined,
      points: run.points.map((each) => ({ ...each, ceilings: [] })),
    }
    const words = foundWell(free, tuning.plan, undefined)
    expect(words[0]).toBe('No ceiling on the way is known, so nothing is said about clipping.')
    expect(words[1]).toBe('The plan asks for no peak level on this recording.')
  })
  it('draws the largest peak of all under its ceiling by just the headroom, where the place is louder than the voice', () => {
    const loud = after(pour, {
      kind: 'change brief',
      to: { noises: [{ ...pour.brief.noises[0]!, levelDba: 96, loudestDba: 112 }] },
    })
    const run = runTo(loud, 'camera.left')
    const { ceiling } = run.tightest!
    const whole = wholePeakAtSourceDb(run, ceiling)!
    expect(whole).toBeGreaterThan(run.atSource.peak + 3)
    expect(ceiling.atSourceDb - whole).toBeCloseTo(ceiling.headroomDb, 9)
    expect(wholePeakAtSourceDb(runTo(tuning, 'camera.left'), undefined)).toBeUndefined()
  })
  it('says of a voice under the echo of its room that it sounds far away, from the critical distance on', () => {
    const { volumeM3, reverberationS } = bench.brief.room
    // by hand: 11 dB lie between power and level at 1 m, 3 less for a mouth, which sends twice as much to its front; the
    // absorbing area by Sabine's formula; an omni takes all in
    const echoAtOneMetreDb = 11 - 3.01 + 10 * Math.log10((4 * reverberationS) / (0.161 * volumeM3))
    const criticalM = 10 ** (-echoAtOneMetreDb / 20)
    const heardFrom = (distanceM: number) => {
      const places = bench.brief.places.map((place) => ({
        ...place,
        hears: place.hears.map((each) => ({ ...each, distanceM, angleDeg: 0 })),
      }))
      const moved = { ...bench, brief: { ...bench.brief, places, noises: [] } }
      const found = findings(moved).filter(({ subject }) => subject.run?.endsWith('>recorder.2'))
      return { words: text(moved, 'recorder.2'), run: runTo(moved, 'recorder.2'), plan: moved.plan, found }
    }
    const far = heardFrom(criticalM * 2)
    expect(far.words).toMatch(
      /The room\u2019s echo is 6\.0 dB louder than the direct voice: it sounds far away/,
    )
    expect(far.words).not.toMatch(/^(Clean|Usable)/)
    expect(far.found.find(({ code }) => code === 'echo')).toMatchObject({
      severity: 'degraded',
      what: expect.stringMatching(/^On .* founder sounds far away\.$/) as string,
    })
    const near = heardFrom(criticalM / 2)
    expect(near.found.map(({ code }) => code)).not.toContain('echo')
    expect(near.words).not.toContain('echo')
    expect(foundWell(near.run, near.plan, undefined).join()).toMatch(
      /The direct voice is 6\.0 dB louder than the room\u2019s echo/,
    )
  })
  it('puts the worst first', () => {
    const order = ['dead', 'harmful', 'degraded', 'note']
    const ranks = findings(bench).map(({ severity }) => order.indexOf(severity))
    expect(ranks).toEqual([...ranks].sort((one, other) => one - other))
  })
})

describe('what a plan asks of recordings', () => {
  const fixed = { floating: false, lowerDb: 0 }
  const floating = { floating: true, lowerDb: 0 }
  const plan = Plan.parse({})
  const camera = { gearKind: 'camera', aim: fixed, automatic: false }
  const recorder = { gearKind: 'recorder', aim: fixed, automatic: false }
  const windowsOf = (change: Partial<Plan>, ...recordings: Parameters<typeof askedOf>[1][number][]) =>
    askedOf({ ...plan, ...change }, recordings).map(({ window }) => window)

  it('peaks inside the window of the peak target; a safety track lies lower by as much as it does', () => {
    const [window] = windowsOf({}, camera)
    expect(outsideDb(window, -13)).toBe(0)
    expect(outsideDb(window, -9)).toBe(3)
    expect(outsideDb(window, -20)).toBe(5)
    const [lower] = windowsOf({}, { ...camera, aim: { ...fixed, lowerDb: 10 } })
    expect(outsideDb(lower, -23)).toBe(0)
  })
  it('nothing of a floating-point track at any peak target: over full scale is no news there', () => {
    for (const peakTarget of PeakTarget.options)
      expect(
        outsideDb(
          windowsOf({ peakTarget }, { gearKind: 'recorder', aim: floating, automatic: false })[0],
          2.2,
        ),
      ).toBe(0)
  })
  it('nothing where automatic gain sets the level itself', () => {
    expect(windowsOf({}, { ...camera, automatic: true })).toEqual([undefined])
  })
  it('at the float target, of a fixed track only where no floating one counts', () => {
    const float = { gearKind: 'recorder', aim: floating, automatic: false }
    expect(windowsOf({ peakTarget: 'float' }, float, camera)).toEqual([undefined, undefined])
    expect(windowsOf({ peakTarget: 'float' }, recorder, camera)).toEqual(windowsOf({}, recorder, camera))
    expect(windowsOf({}, float, camera)[1]).toBeDefined()
  })
  it('a window of what counts alone; the ceilings of the rest unless they are let go of', () => {
    const asked = (change: Partial<Plan>) => askedOf({ ...plan, ...change }, [camera, recorder])
    const [forCamera, forRecorder] = [asked({ counts: 'camera only' }), asked({ counts: 'recorder first' })]
    expect(forCamera.map(({ window }) => window !== undefined)).toEqual([true, false])
    expect(forRecorder.map(({ window }) => window !== undefined)).toEqual([false, true])
    expect(asked({}).map(({ window }) => window !== undefined)).toEqual([true, true])
    expect(forCamera.map(({ ceilings }) => ceilings)).toEqual([true, true])
    expect(asked({ counts: 'camera only', backupsMayClip: true }).map(({ ceilings }) => ceilings)).toEqual([
      true,
      false,
    ])
    // with no camera in the chain everything counts
    expect(askedOf({ ...plan, counts: 'camera only' }, [recorder])[0]!.counts).toBe(true)
  })
})

describe('laws of a chain', () => {
  it('a control changes nothing to its left and the same amount everywhere to its right', () => {
    const louder = after(bench, set('recorder', 'gain-1', 44))
    const [before, now] = [runTo(bench, 'camera.left'), runTo(louder, 'camera.left')]
    const at = before.points.findIndex(({ name }) => name === 'Preamplifier')
    before.points.forEach((point, index) =>
      expect(now.points[index]!.rmsDb.typical - point.rmsDb.typical).toBeCloseTo(index < at ? 0 : 10, 9),
    )
  })
  it('noise referred to the source never falls along a run', () => {
    for (const patch of [bench, pour, tuning])
      for (const run of levelsOfPatch(patch, shelf).runs) {
        const floors = run.points.map(({ noiseAtSourceDb }) => noiseAtSourceDb)
        floors.slice(1).forEach((floor, index) => expect(floor).toBeGreaterThan(floors[index]! - 1e-9))
      }
  })
  it('the columns of a run show each of its points once, and the same least headroom', () => {
    for (const patch of [bench, pour, tuning])
      for (const run of levelsOfPatch(patch, shelf).runs) {
        const columns = columnsOf(run)
        expect(columns.flatMap(({ points }) => points)).toEqual(run.points.map((_, index) => index))
        const least = Math.min(...columns.map(({ ceiling }) => ceiling?.headroomDb ?? Infinity))
        expect(least).toBe(run.tightest?.ceiling.headroomDb ?? Infinity)
      }
  })
  it('a monitor knob reaches the ears and no recording; the gain of a channel reaches what it feeds', () => {
    const { reach, runs } = levelsOfPatch(bench, shelf)
    const kinds = (key: string) =>
      new Set(reach[key]!.map((id) => runs.find((run) => run.id === id)!.end.kind))
    expect([...kinds('recorder.phones')]).toEqual(['listen'])
    expect(kinds('recorder.gain-1')).toEqual(new Set(['recording', 'listen']))
  })
  it('headphones beside the camera on one output pull its level down, by division', () => {
    const beside: Edit[] = [
      { kind: 'disconnect', link: 'ears' },
      {
        kind: 'insert piece',
        link: 'camera-feed',
        at: 0,
        piece: { id: 'splitter', gear: 'mini-splitter', settings: {}, locked: [] },
      },
      {
        kind: 'connect',
        link: {
          id: 'ears',
          from: { box: 'recorder', port: 'line' },
          to: { box: 'phones', port: 'in' },
          pieces: [],
          branch: { piece: 'splitter', end: 2 },
        },
      },
    ]
    const [alone, shared] = [runTo(bench, 'camera.left'), runTo(after(bench, ...beside), 'camera.left')]
    // 100 ohm behind the output; 4700 ohm and 63 ohm in front of it
    const parallel = 1 / (1 / 4700 + 1 / 63)
    const expected = 20 * Math.log10(parallel / (100 + parallel) / (4700 / 4800))
    expect(shared.typicalDb - alone.typicalDb).toBeCloseTo(expected, 1)
  })
})

describe('a mix', () => {
  const mixer: GearInput = {
    id: 'mixer',
    name: 'Mixer',
    maker: 'Fennimore',
    kind: 'mixer',
    controls: [{ kind: 'knob', id: 'two', name: 'two', minimum: -40, maximum: 40, click: 1, initial: 0 }],
    ports: [
      { id: 'one', name: 'one', direction: 'in', connector: 'fixed' },
      { id: 'other', name: 'other', direction: 'in', connector: 'fixed' },
    ],
    strips: [
      {
        id: 'a',
        from: { port: 'one' },
        stages: [{ kind: 'gain', gainDb: 0, outputNoiseDbuA: -100 }],
        to: [{ bus: 'mix' }],
      },
      {
        id: 'b',
        from: { port: 'other' },
        stages: [{ kind: 'gain', gainDb: { control: 'two', perUnit: 1 }, inputNoiseDbuA: -100 }],
        to: [{ bus: 'mix' }],
      },
      {
        id: 'm',
        from: { bus: 'mix' },
        stages: [
          { kind: 'converter-in', fullScaleDbu: 0 },
          { kind: 'recording', name: 'mix', track: 'mix' },
        ],
      },
    ],
  }
  const feed: GearInput = {
    id: 'feed',
    name: 'Feed',
    maker: 'Fennimore',
    kind: 'desk',
    ports: [
      { id: 'in', name: 'in', direction: 'in', connector: 'fixed' },
      { id: 'out', name: 'out', direction: 'out', connector: 'fixed' },
    ],
    strips: [{ id: 's', from: { port: 'in' }, stages: [], to: [{ port: 'out' }] }],
  }
  const patch = (gain: number) =>
    Patch.parse({
      format: 'iron-hush/patch',
      version: 2,
      name: 'mix',
      brief: {
        sources: ['one', 'other'].map((id) => ({
          kind: 'line',
          id,
          name: id,
          levelsDbu: { quietest: -30, typical: -20, loudest: -15 },
        })),
        picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
        room: { name: 'none', volumeM3: 50, reverberationS: 0.5 },
      },
      gear: [mixer, feed],
      boxes: [
        { id: 'x', gear: 'feed', source: 'one' },
        { id: 'y', gear: 'feed', source: 'other' },
        { id: 'mixer', gear: 'mixer', settings: { two: gain } },
      ],
      links: [
        { id: 'l1', from: { box: 'x', port: 'out' }, to: { box: 'mixer', port: 'one' } },
        { id: 'l2', from: { box: 'y', port: 'out' }, to: { box: 'mixer', port: 'other' } },
      ],
    })
  it('carries the noise of one channel into the ratio of the other', () => {
    const ratio = (gain: number) =>
      levelsOfPatch(patch(gain), new Map()).runs.find(({ source }) => source.id === 'one')!.overBoxesDb
    // -100 dBu of its own; the neighbour adds -100 + gain
    expect(ratio(0)).toBeCloseTo(80 - 10 * Math.log10(2), 2)
    expect(ratio(20)).toBeCloseTo(80 - 10 * Math.log10(1 + 100), 2)
    expect(ratio(-40)).toBeCloseTo(80 - 10 * Math.log10(1 + 1e-4), 2)
  })
})
