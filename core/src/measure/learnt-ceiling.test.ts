import { describe, expect, it } from 'vitest'
import { graphOf } from '../chain'
import { levelsOfPatch } from '../levels'
import { boxOf, gearOf, known, type Patch, type Shelf } from '../model'
import { render, voiceOf } from '../render'
import { scene, shelf } from '../tests/demo'
import { ClipMeter } from './clip-meter'
import { learntCeiling, withLearntCeiling } from './learnt-ceiling'

const rateHz = 48_000
const patch = scene('3-the-tuning')
const runOf = (of: Shelf) =>
  known(
    levelsOfPatch(patch, of).runs.find(
      ({ end }) => end.box === 'camera' && end.kind === 'recording' && end.track === 'left',
    ),
    'the run into the camera',
  )

/** What a recording of the patch holds, with gear that may be otherwise than the plan thinks. */
async function recorded(on: Patch, of: Shelf) {
  const graph = graphOf(on, of)
  const end = known(
    graph.ends.find(({ box, stage }) => box === 'camera' && 'track' in stage && stage.track === 'left'),
    'the recording',
  )
  const meter = new ClipMeter({ channels: 1, rateHz, bits: 0, frames: 10 * rateHz })
  const running = render(graph, (key) => known(graph.settings.get(key), key), {
    rateHz,
    frames: 10 * rateHz,
    seed: 3,
    voice: (source) => voiceOf(source, rateHz, 3),
    noise: true,
    ambience: false,
  })
  for (let next = running.next(); !next.done; next = running.next())
    await meter.push([known(next.value.tracks.get(end), 'its samples')])
  return known((await meter.finish()).channels[0], 'the channel')
}

describe('what a clip teaches of a ceiling', () => {
  it(
    'is the ceiling of the amplifier that a rendered recording went through',
    { timeout: 60_000 },
    async () => {
      const camera = gearOf(shelf, boxOf(patch, 'camera').gear)
      const guess = { ...known(learntCeiling(cutAt(-30), runOf(shelf)), 'a ceiling'), learntDbu: -30 }
      const hidden = new Map(shelf).set(
        camera.id,
        known(withLearntCeiling(camera, guess, 'hidden'), 'a thing'),
      )
      const learnt = learntCeiling(await recorded(patch, hidden), runOf(shelf))
      expect(learnt).toMatchObject({ part: 'camera', field: 'inputCeilingDbu', plannedDbu: -22 })
      expect(Math.abs(learnt!.learntDbu + 30)).toBeLessThan(1)
      // and the plan made with it no longer learns anything
      const corrected = new Map(shelf).set(
        camera.id,
        known(withLearntCeiling(camera, learnt!, ''), 'a thing'),
      )
      expect(learntCeiling(await recorded(patch, corrected), runOf(corrected))).toBeUndefined()
    },
  )
  it('is off by as much as the crests lie off where the plan has them end, and nothing within 0.3 dB', () => {
    const run = runOf(shelf)
    const stage = known(
      run.points.find(({ ceilings }) => ceilings.some(({ levelDb }) => levelDb === -22)),
      'the first amplifier of the camera',
    )
    const [ceiling] = stage.ceilings
    const inFileDbfs = ceiling!.atSourceDb + run.points.at(-1)!.gainFromSourceDb
    const learntAt = (offDb: number) => learntCeiling(cutAt(inFileDbfs + offDb), run)?.learntDbu
    expect([-0.25, 0, 0.25].map(learntAt)).toEqual([undefined, undefined, undefined])
    for (const offDb of [-6, -0.4, 0.4, 4]) expect(learntAt(offDb)).toBeCloseTo(-22 + offDb, 1)
    expect(learntCeiling(cutAt(-0.4), run)).toBeUndefined()
    expect(learntCeiling(cutAt(-0.6), run)).toBeDefined()
  })
  it('is that of a stage of another shape only where that lies 6 dB nearer', () => {
    const run = runOf(shelf)
    const stages = run.points.flatMap((point, index) => (point.kind === 'gain' ? [index] : [])).slice(0, 2)
    const some = run.points.flatMap(({ ceilings }) => ceilings)[0]!
    const inFile = run.points.at(-1)!.gainFromSourceDb
    /** Two stages alone, that cut so many dB above where the crests end. */
    const learntOf = (sameShapeDb: number, otherShapeDb: number) => {
      const offs = [sameShapeDb, otherShapeDb]
      const points = run.points.map((point, index) => ({
        ...point,
        ceilings: stages.includes(index)
          ? [
              {
                ...some,
                atSourceDb: -20 + offs[stages.indexOf(index)]! - inFile,
                shape: (['bent', 'flat'] as const)[stages.indexOf(index)]!,
              },
            ]
          : [],
      }))
      const learnt = learntCeiling(cutAt(-20), { ...run, points })
      return learnt && stages.findIndex((index) => run.points[index]!.name === learnt.stageName)
    }
    expect(learntOf(6.5, 1)).toBe(0)
    expect(learntOf(7.5, 1)).toBe(1)
    expect(learntOf(6.8, 0.5)).toBe(1)
  })
  it('is nothing where nothing is cut, and where only the file is full', () => {
    expect(learntCeiling({ ...cutAt(-8), clipped: [] }, runOf(shelf))).toBeUndefined()
    expect(learntCeiling(cutAt(0), runOf(shelf))).toBeUndefined()
  })
})

/** A channel whose crests bend towards a level. */
const cutAt = (ceilingDbfs: number) => ({
  peakDbfs: ceilingDbfs,
  peakAtS: 1,
  rmsDbfs: -30,
  speechDbfsA: -30,
  noiseDbfsA: -70,
  pauses: true,
  truePeakDbtp: ceilingDbfs,
  tone: null,
  ceilingDbfs,
  clipped: [
    { fromS: 1, toS: 1.1, levelDbfs: ceilingDbfs, shape: 'bent' as const, samples: 40, confidence: 0.9 },
  ],
  clippedMore: 0,
  worstPeak: [],
  levelsDbfsA: [],
  noiseBands: [],
  envelope: [],
})
