import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { chainOf, graphOf } from '../chain'
import { checkPatch, type Patch, positionsOf } from '../model'
import { type Amp, amp, generated, noisy, quiet } from '../tests/amp-chains'
import { feed } from '../tests/line-patch'
import { twoFeeds } from '../tests/two-feeds'
import { cases, isLong } from '../tests/form'
import {
  aimsOf,
  balance,
  bestPositions,
  type Choice,
  compareScores,
  forEachIn,
  freeControls,
  mostFirst,
  Positions,
  type Score,
  scoreOf,
  tenths,
  worstFirst,
  worstRatioDb,
} from './index'

/** Tries everything. Shares with the search only the figure that says what is better. */
function exhaustive(patch: Patch): Score {
  const graph = graphOf(patch, new Map())
  const aims = aimsOf(graph, patch.plan)
  const positions = new Positions(graph, freeControls(graph, patch, new Map()))
  let best: Score | undefined
  const all = positions.knobs.map((_, index) => index)
  forEachIn(positions.whole(), all, positions.now, (choice) => {
    const chain = chainOf(graph, positions.readings(choice))
    const score = scoreOf(chain, aims, positions.changes(choice))
    if (!best || compareScores(score, best) < 0) best = score
  })
  return best!
}

/** What the search finds, computed again at the positions that it names, and what else is worth as much. */
function searched(patch: Patch): {
  score: Score
  worthOf: (choice: Choice) => Score
  choice: Choice
  now: Choice
} {
  const graph = graphOf(patch, new Map())
  const free = freeControls(graph, patch, new Map())
  const found = bestPositions(graph, patch.plan, free)!
  const positions = new Positions(graph, free)
  const aims = aimsOf(graph, patch.plan)
  const worthOf = (choice: Choice) =>
    scoreOf(chainOf(graph, positions.readings(choice)), aims, positions.changes(choice))
  const choice = Int32Array.from(free, ({ key, control }) =>
    positionsOf(control).indexOf(found.positions.get(key)!),
  )
  return { score: worthOf(choice), worthOf, choice, now: positions.now }
}

const windows = { cautious: [-20, -17], usual: [-15, -12], full: [-10, -6] } as const

/**
 * Tries every combination in arithmetic of its own: one feed of -40 dBu, loudest -32 with a crest of 14 dB and noise of
 * -110 dBu(A), through the trunk and each branch into converters of +6 dBu and -96 dBFS(A).
 */
function plainly(trunk: Amp[], branches: Amp[][], peakTarget: keyof typeof windows): Score {
  const power = (db: number) => 10 ** (db / 10)
  const peak = -32 + 14 - 10 * Math.log10(2)
  const [lowest, highest] = windows[peakTarget]
  interface State {
    gainDb: number
    /** Referred to the feed. */
    noise: number
    room: number
  }
  let best: Score | undefined
  const through = (each: Amp, state: State, position: number): State => {
    const gainDb = state.gainDb + each.least + position * each.click
    return {
      gainDb,
      noise: state.noise + power(each.inputNoise - state.gainDb) + power(each.outputNoise - gainDb),
      room: Math.min(state.room, each.ceiling - (peak + gainDb)),
    }
  }
  const chosen: number[][] = branches.map(() => [])
  const branch = (
    at: number,
    split: State,
    rooms: number[],
    misses: number[],
    noises: number[],
    moved: number,
  ): void => {
    const row = branches[at]
    if (!row) {
      const score: Score = {
        overDb: mostFirst(rooms.map((room) => Math.max(0, 3 - room))),
        outsideDb: mostFirst(misses),
        speechToNoiseDb: worstFirst(noises.map((noise) => -40 - 10 * Math.log10(noise + power(-110)))),
        overBoxesDb: worstFirst(noises.map((noise) => -40 - 10 * Math.log10(noise))),
        headroomDb: Math.min(...rooms),
        changes: moved,
      }
      if (!best || compareScores(score, best) < 0) best = score
      return
    }
    const step = (index: number, state: State, count: number): void => {
      const each = row[index]
      if (!each) {
        const out = peak + state.gainDb - 6
        const noise = state.noise + power(-96 + 6 - state.gainDb)
        branch(
          at + 1,
          split,
          [...rooms, Math.min(state.room, -out)],
          [...misses, Math.max(0, lowest - out, out - highest)],
          [...noises, noise],
          count,
        )
        return
      }
      // a stage that hangs on the first branch's knob stands where that stands, with that knob's clicks
      const shared = each.shared && at > 0 ? branches[0]![index] : undefined
      if (shared) {
        const position = chosen[0]![index]!
        step(
          index + 1,
          through({ ...each, least: shared.least, click: shared.click }, state, position),
          count,
        )
        return
      }
      for (let position = 0; position <= each.steps; position++) {
        chosen[at]![index] = position
        step(index + 1, through(each, state, position), count + Number(position > 0))
      }
    }
    step(0, split, moved)
  }
  const along = (index: number, state: State, moved: number): void => {
    const each = trunk[index]
    if (!each) return branch(0, state, [], [], [], moved)
    for (let position = 0; position <= each.steps; position++)
      along(index + 1, through(each, state, position), moved + Number(position > 0))
  }
  along(0, { gainDb: 0, noise: 0, room: Infinity }, 0)
  return best!
}

/**
 * The clearest that a row can come to within the demands, proved without a search: gains lie on a grid of half decibels,
 * and what is least noise at a gain after a stage follows from the least at each gain before it.
 */
function clearestOfRow(row: Amp[], peakTarget: keyof typeof windows): number | undefined {
  const power = (db: number) => 10 ** (db / 10)
  const peak = -32 + 14 - 10 * Math.log10(2)
  const [lowest, highest] = windows[peakTarget]
  let least = new Map([[0, 0]])
  for (const each of row) {
    const next = new Map<number, number>()
    for (const [gain, noise] of least)
      for (let position = 0; position <= each.steps; position++) {
        const after = gain + 2 * (each.least + position * each.click)
        if (each.ceiling - (peak + after / 2) < 2.95) continue
        const sum = noise + power(each.inputNoise - gain / 2) + power(each.outputNoise - after / 2)
        if (sum < (next.get(after) ?? Infinity)) next.set(after, sum)
      }
    least = next
  }
  let best: number | undefined
  for (const [gain, noise] of least) {
    const out = peak + gain / 2 - 6
    if (out < lowest - 0.05 || out > highest + 0.05 || -out < 2.95) continue
    const clear = -40 - 10 * Math.log10(noise + power(-90 - gain / 2) + power(-110))
    if (best === undefined || clear > best) best = clear
  }
  return best
}

const row = fc.array(amp, { minLength: 1, maxLength: 2 })
const chains = fc.record({
  trunk: fc.array(amp, { minLength: 1, maxLength: 3 }),
  branches: fc.array(row, { minLength: 1, maxLength: 2 }),
  peakTarget: fc.constantFrom('usual', 'full', 'cautious'),
})

/** What the search finds is what its positions are really worth, and nothing is worth more. */
function expectBest(patch: Patch): void {
  expect(checkPatch(patch, new Map())).toEqual([])
  const { score, worthOf, choice, now } = searched(patch)
  const best = exhaustive(patch)
  expect([compareScores(score, best), score, best]).toEqual([0, score, best])
  // and no control could have stayed nearer to where it stands
  for (const [knob, stop] of choice.entries())
    for (let other = now[knob]!; other !== stop; other += Math.sign(stop - now[knob]!)) {
      const less = choice.slice()
      less[knob] = other
      expect(compareScores(worthOf(less), score)).toBeGreaterThan(0)
    }
}

const [chainCount, largeCount, mixCount, linkedCount] = cases([200, 60, 150, 60], [16, 4, 12, 4])

describe('the search for the best positions', () => {
  it(
    `equals exhaustive search on ${chainCount} generated chains, splits and shared controls`,
    { timeout: 120_000 },
    () => {
      fc.assert(
        fc.property(chains, ({ trunk, branches, peakTarget }) =>
          expectBest(generated(trunk, branches, false, peakTarget)),
        ),
        { numRuns: chainCount },
      )
    },
  )
  it(
    `equals it on ${largeCount} larger ones, of a thousand to a million combinations each`,
    { timeout: 240_000 },
    () => {
      const steps = fc.integer({ min: 2, max: 14 })
      const big = fc.record({
        trunk: fc.array(fc.tuple(amp, steps), { minLength: 1, maxLength: 3 }),
        branches: fc.array(fc.array(fc.tuple(amp, steps), { minLength: 1, maxLength: 2 }), {
          minLength: 1,
          maxLength: 2,
        }),
        peakTarget: fc.constantFrom('usual' as const, 'full' as const, 'cautious' as const),
      })
      const wide = ([each, count]: [Amp, number]): Amp => ({ ...each, steps: count, click: each.click / 2 })
      fc.assert(
        fc.property(big, ({ trunk, branches, peakTarget }) => {
          const [rows, ends] = [trunk.map(wide), branches.map((branch) => branch.map(wide))]
          const combinations = [...rows, ...ends.flat()].reduce(
            (all, { steps: count }) => all * (count + 1),
            1,
          )
          fc.pre(combinations >= 1e3 && combinations <= 1e6)
          const patch = generated(rows, ends, false, peakTarget)
          const mine = searched(patch).score
          const best = plainly(rows, ends, peakTarget)
          expect([compareScores(mine, best), mine, best]).toEqual([0, mine, best])
        }),
        { numRuns: largeCount },
      )
    },
  )
  it(`equals it on ${mixCount} where branches meet again on a mix`, { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(chains, ({ trunk, branches, peakTarget }) =>
        expectBest(generated(trunk.slice(0, 1), branches, true, peakTarget)),
      ),
      { numRuns: mixCount },
    )
  })
  it(
    `equals it on ${linkedCount} where automatic gain turns both channels together`,
    { timeout: 60_000 },
    () => {
      const level = fc.integer({ min: -60, max: -10 })
      fc.assert(
        fc.property(level, level, fc.integer({ min: 1, max: 6 }), (one, other, steps) => {
          const sources = [feed('first', one), feed('second', other)] as const
          expectBest(twoFeeds(sources, { linked: true, gainsDb: [-12, -12], steps }))
        }),
        { numRuns: linkedCount },
      )
    },
  )
  it('looks at a small part of what exhaustive search looks at', () => {
    const many = { ...quiet, steps: 31, click: 1 }
    const found = balance(
      generated(
        [many, { ...many, least: -16 }],
        [
          [
            { ...noisy, steps: 31, click: 1 },
            { ...noisy, steps: 31, click: 1 },
          ],
        ],
        false,
        'usual',
      ),
      new Map(),
    )!
    expect(found.combinations).toBe(32 ** 4)
    expect(found.evaluations).toBeLessThan(32 ** 4 / 10)
  })
  it('reaches, among 10^12 combinations, what is proved to be the clearest', { timeout: 120_000 }, () => {
    const long = fc.array(
      fc.record({
        steps: fc.constant(31),
        click: fc.constantFrom(0.5, 1, 1.5),
        least: fc.integer({ min: -24, max: 6 }),
        inputNoise: fc.integer({ min: -130, max: -95 }),
        outputNoise: fc.integer({ min: -110, max: -85 }),
        ceiling: fc.integer({ min: -10, max: 20 }),
        shared: fc.constant(false),
      }),
      { minLength: 8, maxLength: 8 },
    )
    fc.assert(
      fc.property(long, fc.constantFrom('usual' as const, 'full' as const), (stages, peakTarget) => {
        const found = balance(generated(stages.slice(0, 6), [stages.slice(6)], false, peakTarget), new Map())!
        expect(found.combinations).toBe(32 ** 8)
        const proved = clearestOfRow(stages, peakTarget)
        expect(found.fits).toBe(proved !== undefined)
        if (proved !== undefined) expect(tenths(worstRatioDb(found.after))).toBe(tenths(proved))
      }),
      { numRuns: cases(6, 1) },
    )
  })
  it.runIf(isLong)(
    'never does better than each recording could alone, where 10^12 combinations hang together',
    {
      timeout: 120_000,
    },
    () => {
      const each = { ...noisy, steps: 31, click: 1, least: -16 }
      const trunk = [{ ...quiet, steps: 31, click: 1 }, each, { ...each, outputNoise: -98 }, each]
      const branches = [
        [each, { ...each, inputNoise: -104 }],
        [{ ...each, ceiling: 4 }, each],
      ]
      const found = balance(generated(trunk, branches, false, 'usual'), new Map())!
      expect(found.combinations).toBe(32 ** 8)
      expect(found.fits).toBe(true)
      const alone = branches.map((branch) => clearestOfRow([...trunk, ...branch], 'usual')!)
      expect(worstRatioDb(found.after)).toBeLessThanOrEqual(Math.min(...alone) + 1e-9)
      // and the one that limits it comes as near as the figures count
      expect(tenths(worstRatioDb(found.after))).toBe(tenths(Math.min(...alone)))
    },
  )
})
