import { asSet, chainOf, graphOf, type PositionOf, readingsOf } from '../chain'
import { applyEdits } from '../edits'
import { type Patch, type Position, positionsOf, type Shelf } from '../model'
import { type Aims, aimsOf, scoreOf } from './aims'
import { balance, type Change, freeControls, settingsOf } from './balance'
import type { FreeControl } from './free-control'
import { meetsDemands, type Score, tenths, worstOutsideDb, worstOverDb } from './objective'

/** Two schools of gain: most of it in the first quiet stage, or every control near the middle of its range. */
export type GainSchool = 'hot early' | 'no box works hard'

/** The settings of a school, and their score. */
export interface SchoolSettings {
  school: GainSchool
  fits: boolean
  score: Score
  changes: Pick<Change, 'part' | 'control' | 'from' | 'to'>[]
}

/** A control that changes a gain, in the order in which the sound meets them. */
interface Dial {
  control: FreeControl
  positions: readonly Position[]
  /** Stops in order of gain, least first: indices of positions. */
  byGain: readonly number[]
}

/**
 * The current chain as each school would set it. Both begin at the best settings and move by one control or two together,
 * as long as no demand is met worse than there; so each is a setting that fits, as near to its school as such moves come.
 * Undefined when cancelled.
 */
export function schoolsOf(
  patch: Patch,
  shelf: Shelf,
  cancelled: () => boolean = () => false,
): SchoolSettings[] | undefined {
  const best = balance(patch, shelf, cancelled)
  if (!best) return undefined
  const start = applyEdits(patch, settingsOf(best.changes), shelf)
  const graph = graphOf(start, shelf)
  const aims = aimsOf(graph, start.plan)
  const now = graphOf(patch, shelf).settings
  const dials = dialsOf(start, shelf)
  const found: SchoolSettings[] = []
  for (const school of ['hot early', 'no box works hard'] as const) {
    const indices = towards(school, { graph, aims, dials, cancelled })
    if (!indices) return undefined
    const settings = new Map([
      ...graph.settings,
      ...dials.map(({ control, positions }, at) => [control.key, positions[indices[at]!]!] as const),
    ])
    const changes = [...settings].flatMap(([key, to]) => {
      const from = asSet({ settings: now })(key)
      const [part, control] = key.split('.') as [string, string]
      return from === to ? [] : [{ part, control, from, to }]
    })
    const score = scoreOf(chainOf(graph, readingsOf(graph, asSet({ settings }))), aims, changes.length)
    found.push({ school, fits: aims.recordings.length > 0 && meetsDemands(score), score, changes })
  }
  return found
}

/** Controls that raise and lower what is recorded, in the order of the chain. */
function dialsOf(patch: Patch, shelf: Shelf): Dial[] {
  const graph = graphOf(patch, shelf)
  const place = (key: string) => graph.nodes.findIndex(({ controls }) => controls.includes(key))
  return freeControls(graph, patch, shelf)
    .sort((one, other) => place(one.key) - place(other.key))
    .flatMap((control): Dial[] => {
      const positions = positionsOf(control.control)
      const nodes = graph.nodes.filter(({ controls }) => controls.includes(control.key))
      const gainDb = positions.map((position) => {
        const at: PositionOf = (key) => (key === control.key ? position : asSet(graph)(key))
        return nodes.reduce((sum, { read }) => sum + read(at).gainDb, 0)
      })
      const byGain = [...positions.keys()].sort((one, other) => gainDb[one]! - gainDb[other]!)
      // a switch that turns an input away is no gain
      const spanDb = Math.max(...gainDb) - Math.min(...gainDb)
      return spanDb > 0 && spanDb < 100 ? [{ control, positions, byGain }] : []
    })
}

interface Search {
  graph: ReturnType<typeof graphOf>
  aims: Aims
  dials: readonly Dial[]
  cancelled: () => boolean
}

/** Final position of each dial, as an index. */
function towards(school: GainSchool, { graph, aims, dials, cancelled }: Search): number[] | undefined {
  const set = asSet(graph)
  let ranks = dials.map(({ control, positions, byGain }) =>
    byGain.indexOf(positions.indexOf(set(control.key))),
  )
  const stopsAt = (at: readonly number[]) => dials.map(({ byGain }, dial) => byGain[at[dial]!]!)
  const scoreAt = (at: readonly number[]): Score => {
    const stops = stopsAt(at)
    const settings = new Map(
      dials.map(({ control, positions }, dial) => [control.key, positions[stops[dial]!]!] as const),
    )
    return scoreOf(
      chainOf(
        graph,
        readingsOf(graph, (key) => settings.get(key) ?? set(key)),
      ),
      aims,
    )
  }
  const first = scoreAt(ranks)
  const keeps = (score: Score) =>
    tenths(worstOverDb(score)) <= tenths(worstOverDb(first)) &&
    tenths(worstOutsideDb(score)) <= tenths(worstOutsideDb(first))
  const worth = (at: readonly number[]) => nearness(school, at, dials)
  for (let moved = true; moved;) {
    moved = false
    for (const next of neighbours(ranks, dials)) {
      if (cancelled()) return undefined
      if (worth(next) <= worth(ranks) + 1e-9 || !keeps(scoreAt(next))) continue
      ranks = next
      moved = true
      break
    }
  }
  return stopsAt(ranks)
}

/** How near settings are to a school: more is nearer. */
function nearness(school: GainSchool, ranks: readonly number[], dials: readonly Dial[]): number {
  return ranks.reduce((sum, rank, dial) => {
    const share = rank / (dials[dial]!.positions.length - 1)
    return school === 'hot early' ? sum + share * 2 ** -dial : sum - (share - 0.5) ** 2
  }, 0)
}

/** Settings a move away, long moves first: one control, or two of which one goes up and one comes down. */
function* neighbours(ranks: readonly number[], dials: readonly Dial[]): Generator<number[]> {
  const within = (dial: number, rank: number) => rank >= 0 && rank < dials[dial]!.positions.length
  for (const step of [8, 4, 2, 1])
    for (const one of dials.keys())
      for (const by of [step, -step]) {
        const rank = ranks[one]! + by
        if (!within(one, rank)) continue
        yield ranks.with(one, rank)
        for (const other of dials.keys())
          for (const back of [8, 4, 3, 2, 1]) {
            const second = ranks[other]! - Math.sign(by) * back
            if (other !== one && within(other, second)) yield ranks.with(one, rank).with(other, second)
          }
      }
}
