import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  applyEdits,
  checkPatch,
  type Control,
  type GearInput,
  parseJson,
  Patch,
  positionsOf,
  ShelfFile,
  shelfOf,
} from '../model'
import { graphOf, levelsOfGraph } from '../levels'
import { feed, linePatch } from '../tests/line-patch'
import { twoFeeds } from '../tests/two-feeds'
import {
  balance,
  compareScores,
  forEachChoice,
  freeControls,
  pricesOf,
  type Score,
  scoreOf,
  tenths,
} from './index'

type StageInput = NonNullable<GearInput['strips']>[number]['stages'][number]

/** A generated amplifier with a control of its own. */
interface Amp {
  steps: number
  click: number
  least: number
  inputNoise: number
  outputNoise: number
  ceiling: number
  shared: boolean
}
const amp: fc.Arbitrary<Amp> = fc.record({
  steps: fc.integer({ min: 1, max: 4 }),
  click: fc.constantFrom(1, 2.5, 4, 6),
  least: fc.integer({ min: -20, max: 20 }),
  inputNoise: fc.integer({ min: -130, max: -95 }),
  outputNoise: fc.integer({ min: -110, max: -80 }),
  ceiling: fc.integer({ min: -25, max: 20 }),
  shared: fc.boolean(),
})

const gainStage = (each: Amp, control: string): StageInput => ({
  kind: 'gain',
  gainDb: { control, perUnit: 1 },
  inputNoiseDbuA: each.inputNoise,
  outputNoiseDbuA: each.outputNoise,
  outputCeilingDbu: each.ceiling,
})
const knob = (each: Amp, id: string): Control => ({
  kind: 'knob',
  id,
  name: id,
  minimum: each.least,
  maximum: each.least + each.steps * each.click,
  click: each.click,
  unit: 'dB',
  initial: each.least,
})

/** A feed through a trunk of amplifiers into one or two branches, each ending in a track; some branches share a knob. */
function generated(
  trunk: Amp[],
  branches: Amp[][],
  mixed: boolean,
  school: 'usual' | 'full' | 'cautious',
): Patch {
  const controls = [
    ...trunk.map((each, index) => knob(each, `t${index}`)),
    ...branches.flatMap((row, branch) => row.map((each, index) => knob(each, `b${branch}-${index}`))),
  ]
  const box: GearInput = {
    id: 'box',
    name: 'Box',
    maker: 'Tarnwick',
    kind: 'recorder',
    controls,
    ports: [{ id: 'in', name: 'in', way: 'in', connector: 'fixed' }],
    strips: [
      {
        id: 'trunk',
        from: { port: 'in' },
        stages: trunk.map((each, index) => gainStage(each, `t${index}`)),
        to: [{ bus: 'split' }],
      },
      ...branches.map((row, branch) => ({
        id: `branch${branch}`,
        from: { bus: 'split' },
        stages: [
          ...row.map((each, index) =>
            gainStage(
              each,
              each.shared && branch > 0 && branches[0]![index] ? `b0-${index}` : `b${branch}-${index}`,
            ),
          ),
          ...(mixed ? [] : end(branch)),
        ],
        to: mixed ? [{ bus: 'mix' }] : [],
      })),
      ...(mixed ? [{ id: 'mixed', from: { bus: 'mix' }, stages: end(9) }] : []),
    ],
  }
  const source = {
    kind: 'line' as const,
    id: 'feed',
    name: 'feed',
    levelsDbu: { quietest: -50, typical: -40, loudest: -32 },
    noiseDbuA: -110,
  }
  return linePatch([source], {
    gear: [box],
    boxes: [{ id: 'box', gear: 'box', source: 'feed' }],
    links: [],
    plan: { school },
  })
}
const end = (track: number): StageInput[] => [
  { kind: 'converter-in', fullScaleDbu: 6, noiseDbfsA: -96 },
  { kind: 'recording', name: `track ${track}`, track: `${track}` },
]

/** Tries everything. Shares with the search only the figure that says what is better. */
function exhaustive(patch: Patch): Score {
  const shelf = new Map()
  const graph = graphOf(patch, shelf)
  let best: Score | undefined
  const free = freeControls(graph, patch, shelf)
  forEachChoice(free, (choice) => {
    const positions = new Map([...graph.settings, ...choice])
    const moved = choice.filter(([key, position]) => graph.settings.get(key) !== position).length
    const score = scoreOf(
      levelsOfGraph(graph, (key) => positions.get(key)!),
      patch.plan,
      moved,
    )
    if (!best || compareScores(score, best) < 0) best = score
  })
  return best!
}

const windows = { cautious: [-20, -17], usual: [-15, -12], full: [-10, -6] } as const

/**
 * Tries every combination in arithmetic of its own: one feed of -40 dBu, loudest -32 with a crest of 14 dB and noise of
 * -110 dBu(A), through the trunk and each branch into converters of +6 dBu and -96 dBFS(A).
 */
function plainly(trunk: Amp[], branches: Amp[][], school: keyof typeof windows): Score {
  const power = (db: number) => 10 ** (db / 10)
  const peak = -32 + 14 - 10 * Math.log10(2)
  const [lowest, highest] = windows[school]
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
    room: number,
    miss: number,
    clear: number,
    moved: number,
  ): void => {
    const row = branches[at]
    if (!row) {
      const score: Score = {
        overDb: Math.max(0, 3 - room),
        outsideDb: miss,
        speechToNoiseDb: clear,
        headroomDb: room,
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
          Math.min(room, state.room, -out),
          Math.max(miss, lowest - out, out - highest),
          Math.min(clear, -40 - 10 * Math.log10(noise + power(-110))),
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
    if (!each) return branch(0, state, state.room, 0, Infinity, moved)
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
function clearestOfRow(row: Amp[], school: keyof typeof windows): number | undefined {
  const power = (db: number) => 10 ** (db / 10)
  const peak = -32 + 14 - 10 * Math.log10(2)
  const [lowest, highest] = windows[school]
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
  school: fc.constantFrom('usual', 'full', 'cautious'),
})

function expectBest(patch: Patch): void {
  expect(checkPatch(patch, new Map())).toEqual([])
  const found = balance(patch, new Map())!
  const best = exhaustive(patch)
  // what balance hands out is what its positions are really worth, and nothing is worth more
  expect(
    compareScores(
      found.changes.length || compareScores(found.after, found.before) === 0 ? found.after : found.before,
      best,
    ),
  ).toBe(0)
}

describe('balance', () => {
  it(
    'equals exhaustive search on 600 generated chains, splits and shared controls',
    { timeout: 120_000 },
    () => {
      fc.assert(
        fc.property(chains, ({ trunk, branches, school }) =>
          expectBest(generated(trunk, branches, false, school)),
        ),
        { numRuns: 600 },
      )
    },
  )
  it('equals it on 400 larger ones, up to a million combinations each', { timeout: 240_000 }, () => {
    let largest = 0
    const steps = fc.integer({ min: 2, max: 14 })
    const big = fc.record({
      trunk: fc.array(fc.tuple(amp, steps), { minLength: 1, maxLength: 3 }),
      branches: fc.array(fc.array(fc.tuple(amp, steps), { minLength: 1, maxLength: 2 }), {
        minLength: 1,
        maxLength: 2,
      }),
      school: fc.constantFrom('usual' as const, 'full' as const, 'cautious' as const),
    })
    const wide = ([each, count]: [Amp, number]): Amp => ({ ...each, steps: count, click: each.click / 2 })
    fc.assert(
      fc.property(big, ({ trunk, branches, school }) => {
        const [rows, ends] = [trunk.map(wide), branches.map((row) => row.map(wide))]
        const combinations = [...rows, ...ends.flat()].reduce((all, { steps: count }) => all * (count + 1), 1)
        fc.pre(combinations <= 1e6)
        largest = Math.max(largest, combinations)
        const patch = generated(rows, ends, false, school)
        const found = balance(patch, new Map())!
        const best = plainly(rows, ends, school)
        const mine = found.changes.length ? found.after : found.before
        expect([compareScores(mine, best), mine, best]).toEqual([0, mine, best])
      }),
      { numRuns: 400 },
    )
    expect(largest).toBeGreaterThan(1e5)
  })
  it('equals it on 400 where branches meet again on a mix', { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(chains, ({ trunk, branches, school }) =>
        expectBest(generated(trunk.slice(0, 1), branches, true, school)),
      ),
      { numRuns: 400 },
    )
  })
  it('equals it on 60 where automatic gain turns both channels together', { timeout: 60_000 }, () => {
    const level = fc.integer({ min: -60, max: -10 })
    fc.assert(
      fc.property(level, level, fc.integer({ min: 1, max: 6 }), (one, other, steps) => {
        const sources = [feed('first', one), feed('second', other)] as const
        expectBest(twoFeeds(sources, { linked: true, gainsDb: [-12, -12], steps }))
      }),
      { numRuns: 60 },
    )
  })
  const quiet = {
    steps: 20,
    click: 2,
    least: 0,
    inputNoise: -125,
    outputNoise: -105,
    ceiling: 15,
    shared: false,
  }
  const noisy = { ...quiet, inputNoise: -100, least: -20 }
  it('gives the gain to the quietest amplifier and says what binds', () => {
    const patch = generated([quiet], [[noisy]], false, 'usual')
    const found = balance(patch, new Map())!
    expect(found.fits).toBe(true)
    expect(found.changes.find(({ control }) => control === 't0')!.to).toBeGreaterThan(20)
    expect(found.reasons.join(' ')).toMatch(/The ceiling met first is Box/)
    expect(found.levels.runs[0]!.peakDb).toBeGreaterThanOrEqual(-15)
    expect(found.levels.runs[0]!.peakDb).toBeLessThanOrEqual(-12)
  })
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
    expect(balance(locked, new Map())!.reasons[0]).toMatch(/^Every control .* is locked: unlock one/)
    const fixed = { ...patch.gear[0]!, controls: [], strips: [] }
    const bare = { ...patch, gear: [fixed] }
    expect(balance(bare, new Map())!.reasons[0]).toMatch(/^No control of this chain/)
  })
  it('says which demand to give up when nothing fits', () => {
    const low = { ...quiet, ceiling: -30, steps: 1 }
    const found = balance(generated([low], [[low]], false, 'usual'), new Map())!
    expect(found.fits).toBe(false)
    expect(found.reasons[0]).toMatch(/No setting .* pad of \d+ dB/)
  })
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
      fc.property(long, fc.constantFrom('usual' as const, 'full' as const), (row, school) => {
        const found = balance(generated(row.slice(0, 6), [row.slice(6)], false, school), new Map())!
        expect(found.combinations).toBe(32 ** 8)
        const proved = clearestOfRow(row, school)
        expect(found.fits).toBe(proved !== undefined)
        if (proved !== undefined) expect(tenths(found.after.speechToNoiseDb)).toBe(tenths(proved))
      }),
      { numRuns: 12 },
    )
  })
  it(
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
      expect(found.after.speechToNoiseDb).toBeLessThanOrEqual(Math.min(...alone) + 1e-9)
      // and the one that limits it comes as near as the figures count
      expect(tenths(found.after.speechToNoiseDb)).toBe(tenths(Math.min(...alone)))
    },
  )
  it('prices each neighbouring position as trying it would', () => {
    const patch = generated([quiet], [[noisy]], false, 'usual')
    const prices = pricesOf(patch, new Map(), new Map([['box.t0', 20]]))
    // at an end there is one neighbour, elsewhere two
    expect(prices.map(({ control }) => control)).toEqual(['t0', 't0', 'b0-0'])
    const graph = graphOf(patch, new Map())
    const worth = (t0: number) =>
      scoreOf(
        levelsOfGraph(graph, (key) => (key === 'box.t0' ? t0 : graph.settings.get(key)!)),
        patch.plan,
        0,
      )
    const up = prices.find(({ control, to }) => control === 't0' && to === 22)!
    expect(up.speechToNoiseDb).toBeCloseTo(worth(22).speechToNoiseDb - worth(20).speechToNoiseDb, 9)
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
  const demo = new URL('../../../demo/', import.meta.url)
  const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
  const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
  const scene = (file: string) => parseJson(Patch, read(`scenes/${file}.json`), file)
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
    const quiet = balance(set(scene('3-the-tuning'), 'recorder', 'phones', -40), shelf)!
    expect(quiet.changes.some(({ control }) => control === 'phones')).toBe(false)
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
    const only = { ...tuning, plan: { ...tuning.plan, keeper: 'recorder first' as const } }
    const both = balance(tuning, shelf)!
    const recorder = balance(only, shelf)!
    expect(recorder.after.speechToNoiseDb).toBeGreaterThan(both.after.speechToNoiseDb)
  })
})
