import { describe, expect, it } from 'vitest'
import { chainOf, graphOf, readingsOf } from '../chain'
import { applyEdits } from '../edits'
import { askedOf, levelsOfPatch } from '../levels'
import { gearOf, type Patch, type Plan, type Shelf } from '../model'
import { scene, shelf } from '../tests/demo'
import { aimsOf, scoreOf, type TargetSettings, targetsOf, tenths, worstRatioDb } from './index'

const tuning = scene('3-the-tuning')
const set = (patch: Patch, { target, changes }: TargetSettings, on: Shelf = shelf): Patch => {
  const plan: Plan = { ...patch.plan, peakTarget: target }
  return applyEdits(
    patch,
    [
      { kind: 'change plan', to: plan },
      ...changes.map(
        ({ part, control, to }) => ({ kind: 'set control', part, control, position: to }) as const,
      ),
    ],
    on,
  )
}

describe('peak targets, each balanced', () => {
  const found = targetsOf(tuning, shelf)!
  const ratioAt = (target: TargetSettings['target']) =>
    worstRatioDb(found.find((each) => each.target === target)!.score)
  it('cost what they say, and have the peaks where they should be', () => {
    expect(found.map(({ target }) => target)).toEqual(['cautious', 'usual', 'a little over', 'full', 'hot'])
    for (const each of found) {
      const patch = set(tuning, each)
      const graph = graphOf(patch, shelf)
      const score = scoreOf(chainOf(graph, readingsOf(graph)), aimsOf(graph, patch.plan))
      expect(tenths(worstRatioDb(score)), each.target).toBe(tenths(worstRatioDb(each.score)))
    }
  })
  it('lose more of the ratio, the more they keep in hand before a noisy camera', () => {
    const ratios = found.map(({ target }) => ratioAt(target))
    expect(ratios).toEqual(ratios.toSorted((one, other) => one - other))
    expect(ratioAt('hot') - ratioAt('cautious')).toBeGreaterThan(3)
  })
  it('go by the marks of a meter that has no numbers', () => {
    const camera = gearOf(shelf, tuning.boxes.find(({ id }) => id === 'camera')!.gear)
    const marks = [-60, -24, -4].map((atDbfs, index) => ({ id: `mark-${index}`, name: 'mark', atDbfs }))
    const on = new Map([...shelf, [camera.id, { ...camera, meter: { marks } }]])
    const at = targetsOf(tuning, on)!.find(({ target }) => target === 'under the mark')!
    const runs = levelsOfPatch(set(tuning, at, on), on).runs.filter(({ end }) => end.kind === 'recording')
    const asked = askedOf(
      { ...tuning.plan, peakTarget: 'under the mark' },
      runs.map(({ end }) => ({ gearKind: end.gearKind, aim: end.aim, automatic: false })),
    )
    const windows = runs.flatMap(({ end }, index) =>
      end.gearKind === 'camera' ? [asked[index]!.window] : [],
    )
    expect(windows.length).toBeGreaterThan(0)
    for (const window of windows) expect(window).toEqual({ lowestDbfs: -27, highestDbfs: -24 })
    expect(at.fits).toBe(true)
    const peaks = runs.filter(({ end }) => end.gearKind === 'camera').map(({ peakDb }) => peakDb)
    for (const peakDb of peaks) expect(Math.abs(peakDb + 25.5)).toBeLessThan(1.6)
  })
})
