import { describe, expect, it } from 'vitest'
import { scene, shelf } from '../tests/demo'
import { judgeTrials } from '../tests/judge-trials'
import { known } from '../model'
import { isLong } from '../tests/form'
import { benchOf } from './bench'
import { trialAfter, trialBegun } from './trial'
import { trialModelOf } from './trial-model'

const bench = benchOf(scene('3-the-tuning'), shelf)
const run = 'bell>boom>camera.left'
const model = known(trialModelOf(bench, run), 'a trial')
const nothingOff = new Float64Array(model.unknowns.length)

describe('the closed form of a trial', () => {
  it('is the chain itself at every setting that it tries', () => {
    for (const file of ['3-the-tuning', '8-the-ride']) {
      const here = benchOf(scene(file), shelf)
      const of = here.levels.runs.find(
        ({ end, stop, spill }) => end.box === 'camera' && !stop && !spill && end.kind === 'recording',
      )!
      const each = known(trialModelOf(here, of.id), file)
      each.settings.forEach((setting, index) => {
        const settings = Object.fromEntries(
          setting.map(({ box, control, position }) => [`${box}.${control}`, position]),
        )
        const real = known(here.runAt(of.id, settings), 'the run')
        const outcome = each.outcome(new Float64Array(each.unknowns.length), index)
        expect(outcome.levelDbfs).toBeCloseTo(real.typicalDb, 1)
        expect(Math.abs(outcome.noiseDbfs - real.noiseWithPlaceDb)).toBeLessThan(0.3)
        const tightest = Math.max(...outcome.overDb)
        expect(Math.abs(tightest + real.tightest!.ceiling.headroomDb)).toBeLessThan(0.3)
      })
    }
  })
})

describe('a trial', () => {
  it.runIf(isLong)('finds the setting on hidden boxes, in few clips, and better than a ladder of ten', () => {
    const drawn = judgeTrials(model, 40, 1, 7)
    expect(drawn.within).toBeGreaterThanOrEqual(0.9)
    expect(drawn.medianClips).toBeLessThanOrEqual(4)
    expect(drawn.within).toBeGreaterThan(drawn.ladderWithin)
  })
  it.runIf(isLong)('finds it also where the boxes are farther from their figures', () => {
    expect(judgeTrials(model, 20, 1.6, 8).within).toBeGreaterThanOrEqual(0.85)
  })
  it('gives the same answer from the same clips and seed', () => {
    const clip = { setting: model.planned, levelDbfs: -50, noiseDbfs: -82, ceilingDbfs: null }
    const [one, other] = [1, 1].map((seed) => trialAfter(model, trialBegun(model, seed), clip, seed))
    expect(one!.best).toBe(other!.best)
    expect(one!.next).toBe(other!.next)
    expect(one!.regretDb).toBe(other!.regretDb)
  })
  it('learns from a pressed clip that settings which send as much will be pressed too', () => {
    const outcome = model.outcome(nothingOff, model.planned)
    const pressed = {
      setting: model.planned,
      levelDbfs: outcome.levelDbfs,
      noiseDbfs: outcome.noiseDbfs,
      ceilingDbfs: outcome.inFileDbfs[5]! - 6,
    }
    const before = trialBegun(model, 1)
    const after = trialAfter(model, before, pressed, 1)
    expect(after.worthDb[model.planned]!).toBeLessThan(before.worthDb[model.planned]! - 6)
  })
  it('is not offered where a box turns itself', () => {
    const yard = benchOf(scene('5-words-over-the-yard'), shelf)
    expect(trialModelOf(yard, 'founder>hand>second.left')).toBeUndefined()
  })
})
