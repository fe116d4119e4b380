import { describe, expect, it } from 'vitest'
import type { LevelFinding } from '../findings'
import { Plan } from '../model'
import { findingsOf, loudestIn } from './findings'
import { whereItStops } from './where-it-stops'
import { ceilingOf, moments, pointOf, runOf } from '../tests/runs'
import type { Ceiling, Point, Run } from './run'

const plan = Plan.parse({})
const found = (more: Partial<Run>, context: Partial<Parameters<typeof findingsOf>[1]> = {}) =>
  findingsOf({ runs: [runOf(more)], reach: {}, assumptions: [] }, { plan, ...context })
const briefly = (findings: readonly LevelFinding[]) =>
  findings.map(({ severity, code }) => `${severity} ${code}`)

const shares = [
  { node: 'mixer.stage', partName: 'MIXER', name: 'Input Stage', atSourceDb: 0, share: 0.8 },
  { node: 'boom.stage', partName: 'BOOM', name: 'Capsule', atSourceDb: -6, share: 0.2 },
]

describe('findings of a run', () => {
  it('are none where all is well', () => {
    expect(found({})).toEqual([])
  })
  it.each([
    [-0.2, ['harmful ceiling']],
    [0, ['degraded ceiling']],
    [2.9, ['degraded ceiling']],
    [2.97, []],
    [3.1, []],
  ])('say of %f dB under a ceiling what the plan asks for there: %j', (headroomDb, expected) => {
    expect(briefly(found({ tightest: { point: 1, ceiling: ceilingOf(headroomDb) } }))).toEqual(expected)
  })
  it('ask as much headroom of the first word behind automatic gain as of any other', () => {
    const first = ceilingOf(0.1, { onset: true })
    expect(briefly(found({ tightest: { point: 1, ceiling: first } }))).toEqual(['degraded ceiling'])
  })
  it('only note a passed ceiling that the plan lets go of', () => {
    const guide = { counts: 'camera only' as const, backupsMayClip: true }
    const tightest = { point: 2, ceiling: ceilingOf(-4) }
    const camera = runOf({
      id: 'founder>boom>camera.left',
      end: { ...runOf().end, box: 'camera', gearKind: 'camera' },
    })
    const findings = findingsOf(
      { runs: [runOf({ tightest }), camera], reach: {}, assumptions: [] },
      { plan: Plan.parse(guide) },
    )
    expect(briefly(findings)).toEqual(['note ceiling'])
  })
  it('know whether something before a ceiling can be turned down', () => {
    const canTurnDown = (point: number, controlAt: number) => {
      const points = ['boom', 'mixer', 'recorder'].map((part, index) =>
        pointOf(part, { controls: index === controlAt ? ['gain'] : [] }),
      )
      return found({ points, tightest: { point, ceiling: ceilingOf(-1) } })[0]!.figures
    }
    expect(canTurnDown(1, 0)).toMatchObject({ canTurnDown: true })
    expect(canTurnDown(1, 1)).toMatchObject({ canTurnDown: true })
    expect(canTurnDown(1, 2)).toMatchObject({ canTurnDown: false })
    expect(canTurnDown(0, 0)).toMatchObject({ canTurnDown: false })
  })
  it.each([
    ['input', 'converter-in', 'digital', 'dBu'],
    ['input', 'transducer', 'volts', 'dB SPL'],
    ['input', 'converter-out', 'volts', 'dBFS'],
    ['output', 'converter-in', 'digital', 'dBFS'],
    ['output', 'transducer', 'volts', 'dBu'],
    ['input', 'gain', 'pressure', 'dB SPL'],
  ] as const)('state a ceiling at the %s of a %s (%s) in %s', (at, kind, domain, unit) => {
    const points = [pointOf('boom'), pointOf('mixer', { kind, domain }), pointOf('recorder')]
    expect(
      found({ points, tightest: { point: 1, ceiling: ceilingOf(-1, { at }) } })[0]!.figures,
    ).toMatchObject({
      unit,
      point: 'MIXER, input stage',
    })
  })
  it('say what is loudest at a ceiling', () => {
    const loudest = (point: Partial<Point>, ceiling: Partial<Ceiling> = {}) =>
      loudestIn(
        runOf({
          points: [
            pointOf('mixer', { peakDb: { ...moments(-40), loudest: -20 }, wholePeakDb: -20, ...point }),
          ],
          tightest: { point: 0, ceiling: ceilingOf(-1, ceiling) },
        }),
      )
    expect(loudest({})).toBe('source')
    expect(loudest({ placePeakDb: -19.9 })).toBe('place')
    expect(loudest({ placePeakDb: -20.1 })).toBe('source')
    expect(loudest({ wholePeakDb: -13.9 })).toBe('all together')
    expect(loudest({ wholePeakDb: -14.1 })).toBe('source')
    expect(loudest({ placePeakDb: -10 }, { onset: true })).toBe('first word after a pause')
    expect(loudestIn(runOf())).toBe('source')
  })
})

describe('findings of ways that meet', () => {
  const way = (db: number, laterMs: number) => ({ db, laterMs, sign: 1 as const })
  it('are a loss of more than 6 dB where they cancel', () => {
    const joined = (joinedDb: number) => found({ points: [pointOf('boom'), pointOf('mixer', { joinedDb })] })
    expect(joined(-6.1)).toMatchObject([{ severity: 'harmful', code: 'sum', figures: { lostDb: 6.1 } }])
    expect(joined(-5.9)).toEqual([])
  })
  it('are a comb while the later is within 20 dB, plainly heard within 10', () => {
    const comb = (...ways: ReturnType<typeof way>[]) => briefly(found({ ways }))
    expect(comb(way(-30, 0), way(-39.9, 2))).toEqual(['degraded sum'])
    expect(comb(way(-30, 0), way(-40.1, 2))).toEqual(['note sum'])
    expect(comb(way(-30, 0), way(-49.9, 2))).toEqual(['note sum'])
    expect(comb(way(-30, 0), way(-50.1, 2))).toEqual([])
    expect(comb(way(-39.9, 2), way(-30, 0))).toEqual(['degraded sum'])
    // louder than the first is as near as softer
    expect(comb(way(-30, 0), way(-19, 2))).toEqual(['note sum'])
  })
  it('are none while they come together, within a twentieth of a millisecond', () => {
    expect(found({ ways: [way(-30, 0), way(-30, 0.049)] })).toEqual([])
    expect(found({ ways: [way(-30, 0), way(-30, 0.051)] })).toHaveLength(1)
  })
  it('have dips of (1 + a) / (1 - a), which have no end at equal levels', () => {
    const dip = (apartDb: number) => found({ ways: [way(-30, 0), way(-30 - apartDb, 1)] })[0]!.figures
    expect(dip(6.0206)).toMatchObject({
      dipDb: expect.closeTo(9.542, 2),
      apartDb: expect.closeTo(6.02, 2),
      laterMs: 1,
    })
    expect(dip(0)).toMatchObject({ dipDb: expect.closeTo(20 * Math.log10(2000), 6) })
  })
})

describe('findings of noise', () => {
  it.each([
    [31, []],
    [29, ['degraded hiss']],
    [20.1, ['degraded hiss']],
    [19.9, ['harmful hiss']],
  ])('weigh a voice %f dB over the hiss of the boxes: %j', (overBoxesDb, expected) => {
    expect(briefly(found({ overBoxesDb, speechToNoiseDb: overBoxesDb, shares }))).toEqual(expected)
  })
  it('say nothing of hiss that nobody makes', () => {
    expect(found({ overBoxesDb: 10, speechToNoiseDb: 10 })).toEqual([])
  })
  it('note a place that is 3 dB more than the boxes, from 30 dB down', () => {
    const place = (speechToNoiseDb: number, overBoxesDb: number) =>
      briefly(found({ speechToNoiseDb, overBoxesDb, shares }))
    expect(place(29, 50)).toEqual(['note place'])
    expect(place(30.1, 50)).toEqual([])
    expect(place(29, 31.9)).toEqual([])
    expect(place(29, 32.1)).toEqual(['note place'])
  })
  it('say what is wanted and not reached, in place of the hiss that is the reason', () => {
    const wanted = { wantedSpeechToNoiseDb: 25 }
    const boxes = found({ speechToNoiseDb: 24.9, overBoxesDb: 24.9, shares }, wanted)
    expect(boxes).toMatchObject([
      {
        severity: 'harmful',
        code: 'under noise',
        subject: { part: 'mixer' },
        figures: { wantedDb: 25, byPlace: false },
      },
    ])
    expect(briefly(found({ speechToNoiseDb: 24.97, overBoxesDb: 24.97, shares }, wanted))).toEqual([
      'degraded hiss',
    ])
    // under the place, and the boxes hiss beside
    const place = found({ speechToNoiseDb: 5, overBoxesDb: 15, shares }, wanted)
    expect(briefly(place)).toEqual(['harmful under noise', 'harmful hiss'])
    expect(place[0]!.subject.part).toBe('boom')
    // without a wish, a voice under its noise
    expect(briefly(found({ speechToNoiseDb: -0.1, overBoxesDb: 40, shares }))).toEqual([
      'harmful under noise',
    ])
    expect(briefly(found({ speechToNoiseDb: 0, overBoxesDb: 40, shares }))).toEqual(['note place'])
  })
  it('are less grave in a recording that does not count', () => {
    const camera = runOf({ id: 'c', end: { ...runOf().end, box: 'camera', gearKind: 'camera' } })
    const backup = runOf({ speechToNoiseDb: -3, overBoxesDb: 50 })
    const findings = findingsOf(
      { runs: [backup, camera], reach: {}, assumptions: [] },
      { plan: Plan.parse({ counts: 'camera only' }) },
    )
    expect(briefly(findings)).toEqual(['degraded under noise'])
  })
  it('tell wind from other noise within 3 dB', () => {
    const atSource = (wind: number) => ({ ...runOf().atSource, placeNoise: 50, wind })
    const wind = (db: number) =>
      found({ speechToNoiseDb: 20, overBoxesDb: 50, shares, atSource: atSource(db) })[0]!.figures
    expect(wind(47.1)).toMatchObject({ mostlyWind: true })
    expect(wind(46.9)).toMatchObject({ mostlyWind: false })
  })
  it('name what would help: the microphone itself, gain before, or nothing before', () => {
    const help = (points: Point[], first = shares) =>
      found({ overBoxesDb: 25, speechToNoiseDb: 25, shares: first, points })[0]!.figures
    const [boom, mixer] = [pointOf('boom'), pointOf('mixer')]
    const turned = pointOf('boom', { controls: ['boost'] })
    expect(help([turned, mixer])).toMatchObject({
      hiss: { biggest: { share: 0.8 }, remedy: { kind: 'gain before' } },
    })
    expect(help([boom, { ...mixer, controls: ['gain'] }])).toMatchObject({
      hiss: { remedy: { kind: 'nothing before' } },
    })
    expect(help([boom, { ...mixer, kind: 'transducer' }])).toMatchObject({
      hiss: { remedy: { kind: 'microphone', name: 'MIXER' } },
    })
    expect(help([boom])).toMatchObject({ hiss: { remedy: { kind: 'microphone' } } })
  })
  it('leave spill alone', () => {
    expect(found({ speechToNoiseDb: -20, overBoxesDb: 5, shares, spill: { heldBy: 'Left' } })).toEqual([])
  })
})

describe('findings of level', () => {
  it.each([
    [-12, []],
    [-11.97, []],
    [-11.9, ['note window']],
    [-15.1, ['note window']],
    [-26.9, ['note window']],
    [-27.1, ['degraded window']],
    [0, ['note window']],
    [0.1, []],
  ])('say of peaks at %f dBFS how far they are outside: %j', (peakDb, expected) => {
    expect(briefly(found({ peakDb }))).toEqual(expected)
  })
  it.each([
    ['cautious', -20, -17],
    ['usual', -15, -12],
    ['full', -10, -6],
  ] as const)('know the window of the %s target', (peakTarget, lowestDbfs, highestDbfs) => {
    const window = (peakDb: number) => found({ peakDb }, { plan: Plan.parse({ peakTarget }) })
    expect(window(lowestDbfs)).toEqual([])
    expect(window(highestDbfs)).toEqual([])
    expect(window(lowestDbfs - 1)).toMatchObject([
      { figures: { outsideDb: expect.closeTo(1, 9), lowestDbfs, highestDbfs } },
    ])
    expect(window(highestDbfs + 1)).toMatchObject([{ figures: { outsideDb: expect.closeTo(1, 9) } }])
    const safety = { ...runOf().end, aim: { floating: false, lowerDb: 10 } }
    expect(found({ peakDb: lowestDbfs - 10, end: safety }, { plan: Plan.parse({ peakTarget }) })).toEqual([])
    expect(found({ peakDb: -50, end: { ...safety, aim: { floating: true, lowerDb: 0 } } })).toEqual([])
  })
  it('ask no level of what automatic gain sets, and say what swells by more than 3 dB', () => {
    const automatic = { spokenDb: 0, pauseDb: 10, loudestDb: -10 }
    const points = [pointOf('boom'), pointOf('mixer'), pointOf('recorder', { automatic })]
    expect(found({ points, peakDb: -40 })).toEqual([])
    expect(found({ points, pauseRiseDb: 3 })).toEqual([])
    expect(found({ points, pauseRiseDb: 3.1 })).toMatchObject([
      {
        severity: 'degraded',
        code: 'pauses',
        subject: { part: 'recorder' },
        figures: { riseDb: 3.1, held: false },
      },
    ])
    const held = [pointOf('boom'), pointOf('recorder', { automatic, heldDb: -20 })]
    expect(found({ points: held, pauseRiseDb: 4 })[0]!.figures).toMatchObject({ held: true })
  })
  it('know when more level into automatic gain helps: the noise arises in its own box', () => {
    const automatic = { spokenDb: 0, pauseDb: 10, loudestDb: -10 }
    const helps = (mixerDb: number, firstDb: number) =>
      found({
        pauseRiseDb: 9,
        points: [
          pointOf('boom', { noiseWithPlaceDb: -100, gainFromSourceDb: -100 }),
          pointOf('mixer', { noiseWithPlaceDb: mixerDb, gainFromSourceDb: -90 }),
          pointOf('recorder', { noiseWithPlaceDb: firstDb, gainFromSourceDb: -80 }),
          pointOf('recorder', { node: 'recorder.agc', automatic }),
        ],
      })[0]!.figures
    // noise at the source: 5 dB into the box, then 8.1 or 7.9 dB behind its first stage
    expect(helps(-85, -71.9)).toMatchObject({ hotterHelps: true })
    expect(helps(-85, -72.1)).toMatchObject({ hotterHelps: false })
    const alone = [pointOf('recorder', { automatic })]
    expect(found({ pauseRiseDb: 9, points: alone })[0]!.figures).toMatchObject({ hotterHelps: false })
  })
  it('say where nothing goes on', () => {
    const dead = (typical: number) => pointOf('mixer', { rmsDb: { quietest: -200, typical, loudest: -120 } })
    expect(whereItStops(runOf({ typicalDb: -141, points: [pointOf('boom'), dead(-141)] }))?.part).toBe(
      'mixer',
    )
    expect(whereItStops(runOf({ typicalDb: -139, points: [pointOf('boom'), dead(-139)] }))).toBeUndefined()
    const findings = found({ typicalDb: -150, speechToNoiseDb: -90, points: [pointOf('boom'), dead(-150)] })
    expect(briefly(findings)).toEqual(['dead level'])
    const stop = {
      finding: { severity: 'dead', code: 'radio channels', subject: {}, figures: {} } as never,
      part: 'mixer',
      partName: 'MIXER',
    }
    expect(whereItStops(runOf({ stop }))?.part).toBe('mixer')
    expect(whereItStops(runOf({ stop: { ...stop, part: 'elsewhere' } }))?.part).toBe('boom')
  })
  it.each([
    [85.1, ['harmful ears'], true],
    [84.9, [], undefined],
    [55.1, [], undefined],
    [54.9, ['note ears'], false],
  ])('weigh %f dB SPL at the ear: %j', (typicalDb, expected, tooLoud) => {
    const findings = found({ typicalDb, end: { ...runOf().end, kind: 'listen' } })
    expect(briefly(findings)).toEqual(expected)
    if (tooLoud !== undefined) expect(findings[0]!.figures).toMatchObject({ tooLoud, levelDbSpl: typicalDb })
  })
})
