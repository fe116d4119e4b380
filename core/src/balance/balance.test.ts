import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { chainOf, graphOf } from '../chain'
import { applyEdits } from '../edits'
import { type Patch, positionsOf } from '../model'
import { generated, knob, noisy, quiet } from '../tests/amp-chains'
import { scene, scenes, shelf } from '../tests/demo'
import { reasonWords } from '../words'
import { isLong } from '../tests/form'
import { oddPatch } from '../tests/odd-patches'
import { compareScores, tenths } from './objective'
import { aimsOf, balance, limitOf, pricesOf, scoreOf, worstRatioDb } from './index'

describe('balance', () => {
  it('gives the gain to the quietest amplifier and says what binds', () => {
    const patch = generated([quiet], [[noisy]], false, 'usual')
    const found = balance(patch, new Map())!
    expect(found.fits).toBe(true)
    expect(found.changes.find(({ control }) => control === 't0')!.to).toBeGreaterThan(20)
    expect(found.reasons.map(reasonWords).join(' ')).toMatch(/The ceiling met first is Box/)
    expect(found.levels.runs[0]!.peakDb).toBeGreaterThanOrEqual(-15)
    expect(found.levels.runs[0]!.peakDb).toBeLessThanOrEqual(-12)
  })
  it.runIf(isLong)('ends when the work allowed is done, and says by how much it may be bettered', () => {
    const yard = scene('5-words-over-the-yard')
    const best = balance(yard, shelf)!
    expect(best.mayGainDb).toBeUndefined()
    expect(tenths(worstRatioDb(best.after))).toBeGreaterThan(tenths(worstRatioDb(best.before)))
    for (const most of [1, 10_000, 20_000, 40_000]) {
      const found = balance(yard, shelf, undefined, most)!
      expect(found.evaluations).toBeLessThan(most + 30_000)
      expect(found.mayGainDb).toBeGreaterThan(0)
      // nothing is claimed that is not so: no better than the best, and the best within what was said
      expect(compareScores(found.after, best.after)).toBeGreaterThanOrEqual(0)
      expect(tenths(worstRatioDb(found.after) + found.mayGainDb!)).toBeGreaterThanOrEqual(
        tenths(worstRatioDb(best.after)),
      )
      expect(found.reasons.at(-1)?.code).toBe('unproved')
    }
  })
  it('has an answer also where the work allowed ends before one was found that keeps every demand', () => {
    const three = scene('7-three-at-the-mould')
    const best = balance(three, shelf)!
    const found = balance(three, shelf, undefined, 1)!
    expect(found.evaluations).toBeGreaterThan(1)
    expect(found.reasons.at(-1)?.code).toBe('unproved')
    expect(compareScores(found.after, found.before)).toBeLessThanOrEqual(0)
    expect(tenths(worstRatioDb(found.after) + found.mayGainDb!)).toBeGreaterThanOrEqual(
      tenths(worstRatioDb(best.after)),
    )
  })
  it('calls nothing impossible that was not tried', () => {
    const three = scene('7-three-at-the-mould')
    const asked = { ...three, plan: { ...three.plan, marginDb: 40 } }
    const sentences = (most?: number) => balance(asked, shelf, undefined, most)!.reasons.map(reasonWords)
    expect(sentences().join(' ')).toMatch(/No setting keeps 40\.0 dB under every ceiling/)
    expect(sentences(1).join(' ')).toMatch(/No setting that was tried keeps 40\.0 dB under every ceiling/)
  })
  it.runIf(isLong)(
    'never passes its limit, and fits only where that says it may',
    { timeout: 240_000 },
    () => {
      const odd = fc.sample(oddPatch, { seed: 11, numRuns: 60 })
      let compared = 0
      for (const patch of [...scenes, ...odd]) {
        const limit = limitOf(patch, shelf)
        const { fits, after } = balance(patch, shelf, undefined, 20_000)!
        if (!limit) continue
        expect(limit.mayFit || !fits, patch.name).toBe(true)
        after.overDb.forEach((db, at) => expect(db).toBeGreaterThanOrEqual(limit.most.overDb[at]! - 1e-6))
        after.outsideDb.forEach((db, at) =>
          expect(db).toBeGreaterThanOrEqual(limit.most.outsideDb[at]! - 1e-6),
        )
        // where some may fit, it is the limit of those
        if (limit.mayFit && !fits) continue
        after.speechToNoiseDb.forEach((db, at) =>
          expect(db, patch.name).toBeLessThanOrEqual(limit.most.speechToNoiseDb[at]! + 1e-6),
        )
        compared++
      }
      expect(compared).toBeGreaterThan(20)
    },
  )
  it('leaves a locked control alone, and proposes nothing once balanced', () => {
    const patch = generated([quiet], [[noisy]], false, 'usual')
    const locked = { ...patch, boxes: [{ ...patch.boxes[0]!, locked: ['t0'] }] }
    expect(balance(locked, new Map())!.changes.every(({ control }) => control !== 't0')).toBe(true)
    const settings = Object.fromEntries(
      balance(patch, new Map())!.changes.map(({ control, to }) => [control, to]),
    )
    expect(balance({ ...patch, boxes: [{ ...patch.boxes[0]!, settings }] }, new Map())!.changes).toEqual([])
  })
  it('says so when every control is locked, and when there is none', () => {
    const patch = generated([quiet], [[noisy]], false, 'usual')
    const locked = { ...patch, boxes: [{ ...patch.boxes[0]!, locked: ['t0', 'b0-0'] }] }
    expect(balance(locked, new Map())!.reasons[0]?.code).toBe('all locked')
    const fixed = { ...patch.gear[0]!, controls: [], strips: [] }
    const bare = { ...patch, gear: [fixed] }
    expect(balance(bare, new Map())!.reasons.map(reasonWords)).toEqual([
      expect.stringMatching(/^No sound arrives on any recording/),
      expect.stringMatching(/^No control of this chain/),
    ])
  })
  it('says which demand to give up when nothing fits', () => {
    const low = { ...quiet, ceiling: -30, steps: 1 }
    const found = balance(generated([low], [[low]], false, 'usual'), new Map())!
    expect(found.fits).toBe(false)
    expect(reasonWords(found.reasons[0]!)).toMatch(/No setting .* pad of \d+ dB/)
  })
  it('prices each neighbouring position as trying it would', () => {
    const patch = generated([quiet], [[noisy]], false, 'usual')
    const prices = pricesOf(patch, new Map(), new Map([['box.t0', 20]]))
    // at an end there is one neighbour, elsewhere two
    expect(prices.map(({ control }) => control)).toEqual(['t0', 't0', 'b0-0'])
    const graph = graphOf(patch, new Map())
    const worth = (t0: number) =>
      scoreOf(
        chainOf(
          graph,
          graph.nodes.map(({ read }) => read((key) => (key === 'box.t0' ? t0 : graph.settings.get(key)!))),
        ),
        aimsOf(graph, patch.plan),
      )
    const up = prices.find(({ control, to }) => control === 't0' && to === 22)!
    expect(up.speechToNoiseDb).toBeCloseTo(worstRatioDb(worth(22)) - worstRatioDb(worth(20)), 9)
    expect(up.headroomDb).toBeCloseTo(worth(22).headroomDb - worth(20).headroomDb, 9)
    expect(pricesOf(patch, new Map(), new Map(), new Set(['box.b0-0']))).toHaveLength(1)
  })
  it('stops when cancelled', () => {
    expect(balance(generated([quiet], [[noisy]], false, 'usual'), new Map(), () => true)).toBeUndefined()
  })
  it('counts every position of a control once', () => {
    expect(positionsOf(knob(quiet, 'k'))).toHaveLength(21)
  })
})

describe('balance on the demo', () => {
  const set = (patch: Patch, part: string, control: string, position: number | string) =>
    applyEdits(patch, [{ kind: 'set control', part, control, position }], shelf)

  it('takes automatic gain off before it balances', () => {
    const automatic = set(scene('1-the-founder-at-the-bench'), 'camera', 'gain-mode', 'auto')
    const found = balance(automatic, shelf)!
    expect(found.changes).toContainEqual(
      expect.objectContaining({ part: 'camera', control: 'gain-mode', to: 'manual' }),
    )
    expect(found.fits).toBe(true)
  }, 60_000)
  it('turns loud headphones down to where ears are safe, and no further', () => {
    const loud = set(scene('3-the-tuning'), 'recorder', 'phones', 0)
    const found = balance(loud, shelf)!
    const ears = found.levels.runs.filter(({ end }) => end.kind === 'listen').map((run) => run.typicalDb)
    expect(Math.max(...ears)).toBeLessThanOrEqual(85)
    const soft = balance(set(scene('3-the-tuning'), 'recorder', 'phones', -40), shelf)!
    expect(soft.changes.some(({ control }) => control === 'phones')).toBe(false)
  })
  it('never moves what has no level: power, low-cut, ducking', () => {
    for (const file of ['1-the-founder-at-the-bench', '2-the-pour', '3-the-tuning']) {
      const moved = balance(scene(file), shelf)!.changes.map(({ control }) => control)
      for (const control of ['phantom-1', 'phantom-2', 'plug-in', 'low-cut', 'limiter'])
        expect(moved).not.toContain(control)
    }
  }, 60_000)
  it('keeps to the recording that counts', () => {
    const tuning = scene('3-the-tuning')
    const only = { ...tuning, plan: { ...tuning.plan, counts: 'recorder first' as const } }
    const both = balance(tuning, shelf)!
    const recorder = balance(only, shelf)!
    expect(worstRatioDb(recorder.after)).toBeGreaterThan(worstRatioDb(both.after))
  })
})
