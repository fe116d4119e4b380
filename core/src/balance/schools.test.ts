import { describe, expect, it } from 'vitest'
import { chainOf, graphOf, readingsOf } from '../chain'
import { applyEdits } from '../edits'
import { type Patch, positionsOf } from '../model'
import { generated, noisy, quiet } from '../tests/amp-chains'
import { scene, shelf } from '../tests/demo'
import { cases } from '../tests/form'
import {
  aimsOf,
  balance,
  meetsDemands,
  type SchoolSettings,
  schoolsOf,
  scoreOf,
  tenths,
  worstRatioDb,
} from './index'

const set = (patch: Patch, { changes }: SchoolSettings, on = shelf) =>
  applyEdits(
    patch,
    changes.map(({ part, control, to }) => ({ kind: 'set control', part, control, position: to })),
    on,
  )
const scoreIn = (patch: Patch, on = shelf) => {
  const graph = graphOf(patch, on)
  return scoreOf(chainOf(graph, readingsOf(graph)), aimsOf(graph, patch.plan))
}

describe('schools of gain', () => {
  it('are settings that fit as the best ones do, and cost what they say', () => {
    for (const name of cases(['1-the-founder-at-the-bench', '3-the-tuning'], ['3-the-tuning'])) {
      const patch = scene(name)
      const best = balance(patch, shelf)!
      const found = schoolsOf(patch, shelf)!
      expect(found.map(({ school }) => school)).toEqual(['hot early', 'no box works hard'])
      for (const each of found) {
        expect(each.fits).toBe(best.fits)
        const score = scoreIn(set(patch, each))
        expect(meetsDemands(score)).toBe(each.fits)
        expect(worstRatioDb(score)).toBeCloseTo(worstRatioDb(each.score), 9)
        // no school beats the exact search
        expect(tenths(worstRatioDb(score))).toBeLessThanOrEqual(tenths(worstRatioDb(best.after)))
      }
    }
  })
  it('give the first amplifier more in one, and stay nearer the middle in the other: as near as any setting that fits', () => {
    const patch = generated(
      [{ ...quiet, steps: 8, click: 3 }],
      [[{ ...noisy, steps: 8, click: 3 }]],
      false,
      'usual',
    )
    const none = new Map()
    const found = schoolsOf(patch, none)!
    const ranks = (of: Patch) =>
      of.gear[0]!.controls.map((control) => {
        const all = positionsOf(control)
        return all.indexOf(of.boxes[0]!.settings[control.id] ?? control.initial) / (all.length - 1)
      })
    const worth = {
      'hot early': ([first, second]: number[]) => first! + second! / 2,
      'no box works hard': (shares: number[]) => -shares.reduce((sum, share) => sum + (share - 0.5) ** 2, 0),
    }
    const everywhere = positionsOf(patch.gear[0]!.controls[0]!).flatMap((one) =>
      positionsOf(patch.gear[0]!.controls[1]!).map((other) => ({
        ...patch,
        boxes: [
          {
            ...patch.boxes[0]!,
            settings: { [patch.gear[0]!.controls[0]!.id]: one, [patch.gear[0]!.controls[1]!.id]: other },
          },
        ],
      })),
    )
    const fitting = everywhere.filter((each) => meetsDemands(scoreIn(each, none)))
    expect(fitting.length).toBeGreaterThan(1)
    for (const each of found) {
      const best = Math.max(...fitting.map((one) => worth[each.school](ranks(one))))
      expect(worth[each.school](ranks(set(patch, each, none)))).toBeCloseTo(best, 9)
    }
  })
  it('stop when cancelled', () => {
    expect(schoolsOf(scene('3-the-tuning'), shelf, () => true)).toBeUndefined()
  })
})
