import { describe, expect, it } from 'vitest'
import { applyEdits, type Edit } from '../edits'
import type { Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { chainOf, graphOf } from '../chain'
import { cases, isLong } from '../tests/form'
import { aimsOf, balance, curesOf, scoreOf, worstRatioDb } from './index'

const tuning = scene('3-the-tuning')

/** The tuning with its pad taken out and the recorder's output locked wide open: nothing can keep the camera from bending. */
const hot = (() => {
  const edits: Edit[] = [
    { kind: 'swap', part: 'pad', gear: 'mini-cable-0m5' },
    { kind: 'set control', part: 'recorder', control: 'output', position: 0 },
    { kind: 'lock control', part: 'recorder', control: 'output', locked: true },
  ]
  return applyEdits(tuning, edits, shelf)
})()

const usedIn = ({ boxes, links }: Patch) =>
  new Set([...boxes, ...links.flatMap(({ pieces }) => pieces)].map(({ gear }) => gear))
/** The short form has what is used, and what takes a level down. */
const few = new Map([...shelf].filter(([id, { kind }]) => usedIn(hot).has(id) || kind === 'pad'))

/** What would cure it, and how far the search said it was on the way. */
const { cures, shares } = (() => {
  const shown: number[] = []
  const found = curesOf(hot, cases(shelf, few), { progress: (share) => shown.push(share) })!
  return { cures: found, shares: shown }
})()

describe('cures', () => {
  it.runIf(isLong)(
    'are none where everything fits and nothing wins a decibel',
    () => {
      const bench = scene('7-three-at-the-mould')
      const inUse = new Map([...shelf].filter(([id]) => usedIn(bench).has(id)))
      expect(balance(bench, inUse)!.fits).toBe(true)
      expect(curesOf(bench, inUse)).toEqual([])
    },
    60_000,
  )
  it('put a pad in, or free what is locked, where no setting helps; each does what it says', () => {
    expect(balance(hot, shelf)!.fits).toBe(false)
    expect(shares.at(-1)).toBe(1)
    expect(
      cures.some(({ change, fits }) => change.kind === 'unlock' && fits && change.box.startsWith('Recorder')),
    ).toBe(true)
    const pads = cures.filter(({ change, fits }) => change.kind === 'insert' && fits)
    expect(pads.length).toBeGreaterThan(0)
    for (const cure of cures) {
      const after = applyEdits(hot, cure.edits, shelf)
      const graph = graphOf(after, shelf)
      const readings = graph.nodes.map(({ read }) => read((key) => graph.settings.get(key)!))
      const score = scoreOf(chainOf(graph, readings), aimsOf(graph, after.plan))
      expect(worstRatioDb(score)).toBeCloseTo(worstRatioDb(cure.after), 9)
      expect(score.headroomDb).toBeCloseTo(cure.after.headroomDb, 9)
      if (cure.fits) expect(score.headroomDb).toBeGreaterThan(after.plan.marginDb - 0.06)
    }
  }, 60_000)
  it('come with what fits first, and of that what costs least', () => {
    const order = cures.map(({ fits, price }) => [fits ? 0 : 1, price ?? Infinity] as const)
    expect(order).toEqual([...order].sort(([a, b], [c, d]) => a - c || b - d))
    for (const { thing, price } of cures) if (thing && thing.owned > 0) expect(price).toBe(0)
  }, 60_000)
  it('bring no new fault of the wiring, and stop when cancelled', () => {
    for (const { change, thing } of cures)
      if (change.kind === 'insert')
        expect(['pad', 'preamplifier', 'mixer', 'recorder']).toContain(thing!.kind)
    let asked = 0
    expect(curesOf(hot, shelf, { cancelled: () => ++asked > 3 })).toBeUndefined()
  }, 60_000)
})
