import { beforeAll, describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import {
  benchOf,
  betterFigures,
  broughtBack,
  type Learnt,
  learntOf,
  controlOfWay,
  lawOfControl,
  lineUpSteps,
  meaningOf,
  newReading,
  toneWays,
  withLearnt,
} from '../lineup'
import { levelsOfPatch } from '../levels'
import { balance } from '../balance'
import { checkGear, type LineUpReading, known, type Patch, shelfOf } from '../model'
import { scene, shelf } from '../tests/demo'
import { isLong } from '../tests/form'
import { linedUp, standIns } from '../tests/line-up'
import { markLevel } from './mark-level'
import { standInDevice, truePatch } from './stand-in'

const tuning = scene('3-the-tuning')
let done: Patch
let camera: Learnt
beforeAll(async () => {
  done = await linedUp(tuning, 'camera', ['tone', 'overload', 'floor'])
  camera = known(learntOf(benchOf(done, shelf))[0], 'what was learnt')
}, 120_000)

const padOf = ({ links }: Patch) =>
  links.flatMap(({ pieces }) => pieces).find(({ gear }) => gear === 'mini-pad-switched')
const change = (kind: string, name = '') =>
  known(
    camera.changes.find((each) => each.kind === kind && each.name.includes(name)),
    `${kind} ${name}`,
  )
const valueOfChange = ({ after }: { after: unknown }): number => (after as { value: number }).value
/** The recorder of this scene is a stand-in too, and sends this much less than its sheet says; it cannot be separated from the camera. */
const recorderOffDb = 0.8

describe('the unmarked camera, lined up with its stand-in', () => {
  it('gives its law within a decibel of the true one wherever it matters', () => {
    const { after } = change('law')
    const points = new Map((after as { points: [number, number][] }).points)
    for (let position = 3; position <= 25; position++) {
      const trueDb = -30 + 44 / (1 + Math.exp(-8 * (position / 25 - 0.42)))
      expect(Math.abs(points.get(position)! + recorderOffDb - trueDb), `${position}`).toBeLessThan(1.1)
    }
  })
  it('finds the overload that hides behind a low record level', () => {
    expect(Math.abs(valueOfChange(change('ceiling')) - recorderOffDb + 27)).toBeLessThan(0.6)
  })
  it('tells the hiss of its first amplifier from that of its converter', () => {
    expect(Math.abs(valueOfChange(change('floor', 'First')) + 100)).toBeLessThan(1.5)
    expect(Math.abs(valueOfChange(change('floor', 'Converter')) + 90)).toBeLessThan(1)
  })
  it('asks for five levels at most, and says what it found at every step', () => {
    const bench = benchOf(done, shelf)
    const steps = lineUpSteps(bench).filter(({ reading }) => reading)
    expect(steps.filter(({ kind }) => kind === 'tone').length).toBeLessThanOrEqual(5)
    for (const step of steps) expect(meaningOf(bench, step, step.reading!).length, step.id).toBeGreaterThan(0)
    const [overload] = steps.filter(({ kind }) => kind === 'overload')
    expect(meaningOf(bench, overload!, overload!.reading!)[0]).toMatchObject({
      code: 'hidden overload',
      severity: 'harmful',
      figures: { shape: 'bent' },
    })
  })
  it('goes into a copy of its own, which Balance then sets within a decibel of what the true figures allow', () => {
    let id = 0
    const fresh = {
      at: '2026-03-14T15:00:00.000Z',
      id: () => `00000000-0000-7000-9000-${String(++id).padStart(12, '0')}`,
    }
    const own = withLearnt(camera.thing, camera.changes, [...shelf.values()], fresh)
    expect(checkGear(own)).toEqual([])
    expect(own.copyOf).toBe('quernstone-pocket-mirrorless')
    expect(own.learnt).toHaveLength(camera.changes.length)
    const things = shelfOf([...shelf.values(), own])
    // every scene that uses it is offered the better figures
    const pour = scene('2-the-pour')
    expect(betterFigures(pour, things).map(({ box }) => box)).toEqual(['camera'])

    const settings = (patch: Patch) =>
      known(balance(patch, things), 'a balance').changes.map(({ part, control, to }) => ({
        kind: 'set control' as const,
        part,
        control,
        position: to,
      }))
    const learnt = applyEdits(done, [{ kind: 'swap', part: 'camera', gear: own.id }], things)
    const real = truePatch(tuning, shelf, standIns)
    const ratio = (patch: Patch) =>
      known(
        levelsOfPatch(patch, shelf).runs.find(({ id: run }) => run === 'bell>boom>camera.left'),
        'the run',
      )
    const asLearnt = ratio(applyEdits(real, settings(learnt), shelf))
    const best = ratio(applyEdits(real, settings(real), shelf))
    expect(asLearnt.speechToNoiseDb).toBeGreaterThan(best.speechToNoiseDb - 1)
    expect(asLearnt.tightest!.ceiling.headroomDb).toBeGreaterThan(1)
    // without it the plan overloads the camera
    const asTyped = ratio(applyEdits(real, settings(tuning), shelf))
    expect(asTyped.tightest!.ceiling.headroomDb).toBeLessThan(0)

    const back = broughtBack(own, own.learnt![0]!.id, fresh)
    expect(back.learnt).toHaveLength(camera.changes.length + 1)
    expect(back.strips[0]!.stages[1]).toEqual(camera.thing.strips[0]!.stages[1])
  })
  it('learns nothing twice: with its copy in the scene the readings agree with it', () => {
    let id = 0
    const own = withLearnt(camera.thing, camera.changes, [...shelf.values()], {
      at: '2026-03-14T15:00:00.000Z',
      id: () => `00000000-0000-7000-a000-${String(++id).padStart(12, '0')}`,
    })
    const things = shelfOf([...shelf.values(), own])
    const bench = benchOf(applyEdits(done, [{ kind: 'swap', part: 'camera', gear: own.id }], things), things)
    const more = learntOf(bench).flatMap(({ changes }) => changes)
    expect(more.filter(({ movesDb }) => Math.abs(movesDb) > 1)).toEqual([])
    for (const step of lineUpSteps(bench).filter(({ kind, reading }) => kind === 'tone' && reading))
      expect(meaningOf(bench, step, step.reading!)[0]!.code, step.id).toBe('as planned')
  })
})

describe('readings that were taken', () => {
  const cameraLawDb = (patch: Patch) => {
    const bench = benchOf(patch, shelf)
    const way = known(
      toneWays(bench).find(({ run }) => run.end.box === 'camera'),
      'a way to the camera',
    )
    const { law } = lawOfControl(bench, way, known(controlOfWay(bench, way), 'its level'))
    return law.points.map(({ gainDb }) => gainDb)
  }
  it('say the same after a pad between the boxes was switched: they were taken without it', () => {
    const padded = applyEdits(
      done,
      [{ kind: 'set control', part: known(padOf(done), 'a pad').id, control: 'loss', position: 'twenty' }],
      shelf,
    )
    const without = cameraLawDb(done)
    cameraLawDb(padded).forEach((gainDb, position) => expect(gainDb).toBeCloseTo(without[position]!, 1))
  })
  it('are held against the tone as the recorder itself showed it', () => {
    const send = known(
      lineUpSteps(benchOf(done, shelf)).find(({ kind }) => kind === 'send'),
      'the step of the recorder',
    )
    const stamp = { id: '00000000-0000-7000-8000-0000000000aa', at: '2026-03-14T13:00:00.000Z' }
    const levelDbfs = send.play!.levelDbfs - 2
    const reading = newReading(benchOf(done, shelf), send, { kind: 'level', levelDbfs }, stamp)
    const shown = applyEdits(done, [{ kind: 'keep reading', id: reading.id, reading }], shelf)
    // what came out as loud from a tone 2 dB lower was amplified by 2 dB more
    expect(cameraLawDb(shown)[11]! - cameraLawDb(done)[11]!).toBeCloseTo(2, 1)
    const bench = benchOf(shown, shelf)
    expect(meaningOf(bench, send, reading)[0]).toMatchObject({ code: 'sent otherwise' })
  })
})

describe('a copy that was accepted after one reading', () => {
  it('is asked on: its law is sure where it was read, and nowhere else', () => {
    const first = known(
      lineUpSteps(benchOf(tuning, shelf)).find(({ kind }) => kind === 'tone'),
      'a tone step',
    )
    const reading = known(
      done.lineUp.find(({ step }) => step === first.id),
      'its reading',
    )
    const once = { ...tuning, lineUp: [reading] }
    const [learnt] = learntOf(benchOf(once, shelf))
    let id = 0
    const own = withLearnt(learnt!.thing, learnt!.changes, [...shelf.values()], {
      at: '2026-03-14T15:00:00.000Z',
      id: () => `00000000-0000-7000-c000-${String(++id).padStart(12, '0')}`,
    })
    const things = shelfOf([...shelf.values(), own])
    const after = applyEdits(once, [{ kind: 'swap', part: 'camera', gear: own.id }], things)
    const tones = lineUpSteps(benchOf(after, things)).filter(({ kind }) => kind === 'tone')
    expect(tones.filter((each) => !each.reading).length).toBeGreaterThan(2)
  })
})

describe('readings that cannot be right', () => {
  const steps = lineUpSteps(benchOf(tuning, shelf))
  const tone = known(
    steps.find(({ kind }) => kind === 'tone'),
    'a tone step',
  )
  /** Readings of the camera at positions, the tone at -30 dBFS on the recorder. */
  const patchWith = (levels: Record<number, number>): Patch => ({
    ...tuning,
    lineUp: Object.entries(levels).map(([position, levelDbfs], index): LineUpReading => ({
      id: `00000000-0000-7000-b000-${String(index).padStart(12, '0')}`,
      at: `2026-03-14T15:0${index}:00.000Z`,
      step: `tone camera level ${position}`,
      basis: tone.basis,
      result: { kind: 'level', levelDbfs },
      gear: { camera: 'quernstone-pocket-mirrorless' },
      settings: { 'camera.level': Number(position) },
      playedDbfs: -30,
    })),
  })
  const meanings = (levels: Record<number, number>, position: number) => {
    const bench = benchOf(patchWith(levels), shelf)
    const step = known(
      lineUpSteps(bench).find(({ id }) => id === `tone camera level ${position}`),
      'the step',
    )
    return meaningOf(bench, step, step.reading!)[0]
  }
  it('fall while the control rises: both are named', () => {
    expect(meanings({ 4: -30, 12: -38 }, 12)).toMatchObject({
      code: 'falls',
      figures: { low: '4 of 25', high: '12 of 25' },
    })
    expect(learntOf(benchOf(patchWith({ 4: -30, 12: -38 }), shelf))).toEqual([])
  })
  it('were taken at another position than said: the level tells which', () => {
    const at = (position: number) => -40 + position
    const levels = { 3: at(3), 7: at(7), 11: at(11), 15: at(15), 19: at(19), 23: at(9) }
    expect(meanings(levels, 23)).toMatchObject({
      code: 'other setting',
      figures: { said: '23 of 25', likely: '9 of 25' },
    })
  })
  it('lie far from all others: left out, with how far', () => {
    const at = (position: number) => -40 + position
    expect(meanings({ 3: at(3), 7: at(7), 11: at(11) - 30, 15: at(15), 19: at(19) }, 11)).toMatchObject({
      code: 'outlier',
    })
  })
  const clip = (more: object) => ({
    kind: 'clip' as const,
    clip: 'clip.wav',
    channel: 0,
    toneDbfs: null,
    toneHz: null,
    distortionDb: null,
    peakDbfs: -20,
    speechDbfsA: -20,
    noiseDbfsA: -20,
    ceilingDbfs: null,
    ceilingShape: null,
    atFullScale: false,
    automatic: null,
    ...more,
  })
  const meaningOfClip = (more: object) => {
    const [reading] = patchWith({ 1: 0 }).lineUp
    const now = { ...tuning, lineUp: [{ ...reading!, result: clip(more) }] }
    const bench = benchOf(now, shelf)
    const step = known(
      lineUpSteps(bench).find(({ id }) => id === 'tone camera level 1'),
      'the step',
    )
    return meaningOf(bench, step, step.reading!)[0]
  }
  it('come from a tone that was distorted before it came here', () => {
    expect(
      meaningOfClip({
        toneDbfs: -60,
        toneHz: 997,
        distortionDb: -12,
        ceilingDbfs: -61,
        ceilingShape: 'flat',
      }),
    ).toMatchObject({ code: 'clipped at source', severity: 'harmful' })
  })
  it('come from a room louder than the tone', () => {
    expect(meaningOfClip({})).toMatchObject({ code: 'no tone', figures: { noiseDbfs: -20 } })
  })
  it('come from a clip that is cut at full scale', () => {
    expect(
      meaningOfClip({ toneDbfs: -1, toneHz: 997, distortionDb: -20, ceilingDbfs: 0, atFullScale: true }),
    ).toMatchObject({ code: 'file clips' })
  })
})

describe('the other stand-ins', () => {
  it.runIf(isLong)('show automatic gain by what it does to bursts, as the model turns it', async () => {
    const pour = await linedUp(scene('2-the-pour'), 'action', ['bursts'])
    const learnt = learntOf(benchOf(pour, shelf)).flatMap(({ changes }) => changes)
    const of = (name: string) => Number(learnt.find((each) => each.name.endsWith(name))?.after)
    expect(of('target')).toBeCloseTo(-19, 0)
    expect(of('hold') / 900).toBeGreaterThan(0.8)
    expect(of('hold') / 900).toBeLessThan(1.2)
    expect(of('release') / 2600).toBeGreaterThan(0.75)
    expect(of('release') / 2600).toBeLessThan(1.25)
  })
  it.runIf(isLong)('light their marks where their true figures say', async () => {
    const bench = scene('1-the-founder-at-the-bench')
    const device = standInDevice(bench, shelf, standIns, 'camera')
    const request = {
      box: 'camera',
      settings: {},
      sound: { kind: 'signal' as const, signal: { kind: 'tone' as const, levelDbfs: -20 }, from: 'recorder' },
    }
    const [yellow, red] = [
      await markLevel(device, request, 'yellow'),
      await markLevel(device, request, 'red'),
    ]
    // from -16 to -4 dBFS by their true figures
    expect(Math.abs(red - yellow - 12)).toBeLessThan(0.6)
  })
  it('swap the two channels of the radio: the scratch test shows it, and names the other', async () => {
    const ride = scene('8-the-ride')
    const bench = benchOf(ride, shelf)
    const step = known(
      lineUpSteps(bench).find(({ id }) => id === 'scratch founder-lapel'),
      'the step',
    )
    expect(step.expect).toMatchObject({ tracks: ['camera.left'] })
    const device = standInDevice(ride, shelf, standIns, 'camera')
    const shows = await device.readMeters({
      box: 'camera',
      settings: {},
      sound: { kind: 'microphone', microphone: 'founder-lapel' },
    })
    const level = (track: string) =>
      known(
        shows.flatMap((each) => (each.track === track && 'levelDbfs' in each ? [each.levelDbfs] : []))[0],
        track,
      )
    expect(level('camera.right')).toBeGreaterThan(level('camera.left') + 26)
    const reading: LineUpReading = {
      id: '00000000-0000-7000-8000-00000000000f',
      at: '2026-03-14T15:00:00.000Z',
      step: step.id,
      basis: step.basis,
      result: { kind: 'channels', moved: ['camera.right'] },
      gear: {},
      settings: {},
      playedDbfs: null,
    }
    expect(meaningOf(bench, step, reading)[0]).toMatchObject({
      code: 'channels swapped',
      figures: { expected: ['camera.left'], moved: ['camera.right'], other: 'Apprentice’s lapel' },
    })
  })
})
