import type { Graph } from '../chain'
import { type Plan, type Position, positionsOf } from '../model'
import { aimsOf } from './aims'
import { searchBranches } from './branches'
import { componentsOf } from './components'
import type { FreeControl } from './free-control'
import { narrowing } from './narrowing'
import { nearer } from './nearer'
import { type Score, tenths, worstOutsideDb, worstOverDb } from './objective'
import { Positions } from './positions'
import type { Demands, Found, Problem } from './problem'
import { reducedGraph } from './reduced'
import { isRows, searchRows } from './rows'

export interface SearchResult {
  positions: Map<string, Position>
  /** Stage evaluations made: how often a node's levels and noise were computed. */
  evaluations: number
  /** Where the work allowed ran out: what positions that were not looked at may be worth at most. */
  bound?: Score
}

/** Stage evaluations allowed for one balance; some four seconds of a core. */
const usualWork = 275_000

/**
 * The best positions of all free controls for the recordings, exactly. Parts of the chain that have no recording and no
 * control in common are searched by themselves: lists compared worst first keep their order whatever is added to both.
 * What they share is the smallest headroom: a part that has more of it to spare than another is asked again for fewer
 * moves within what the other leaves. Of what is worth the same the smallest moves are taken, as far as one or two
 * controls at a time show them.
 *
 * @param cancelled asked now and then; when it says true the search ends with undefined
 * @param mostEvaluations when so many stages were computed, the search ends with the best found and the bound that remains
 */
export function bestPositions(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  cancelled: () => boolean = () => false,
  mostEvaluations = usualWork,
): SearchResult | undefined {
  let evaluations = 0
  const moved = new Map(free.map(({ key, control }) => [key, positionsOf(control)]))
  const apart = reducedGraph(graph, moved)
  const parts = problemsOf(graph, apart, moved, plan, free).map((part): Problem => ({
    ...part,
    cancelled,
    exhausted: () => evaluations > mostEvaluations,
    count: (more) => (evaluations += more),
    enoughHeadroomDb: Infinity,
  }))
  const found = parts.map((part) => leastGivenUp(part))
  if (found.some((each) => !each)) return undefined
  const enough = Math.min(...found.map((each) => each!.score.headroomDb))
  const positions = new Map<string, Position>()
  const bound = found.map((each) => each!.bound).find((each) => each !== undefined)
  for (const [index, part] of parts.entries()) {
    const first = found[index]!
    const hasToSpare = tenths(first.score.headroomDb) > tenths(enough) && first.score.changes > 0
    const again = hasToSpare ? leastGivenUp({ ...part, enoughHeadroomDb: enough }) : first
    if (!again) return undefined
    // fewer moves are not worth a search that did not come to its end
    const { choice } = again.bound ? first : again
    for (const [key, position] of part.positions.named(choice)) positions.set(key, position)
  }
  return { positions: nearest(apart, plan, free, positions, cancelled), evaluations, bound }
}

/** Positions that are worth the same with smaller moves. */
function nearest(
  reduced: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  found: ReadonlyMap<string, Position>,
  cancelled: () => boolean,
): Map<string, Position> {
  const positions = new Positions(reduced, free)
  const choice = Int32Array.from(free, ({ key, control, now }) =>
    positionsOf(control).indexOf(found.get(key) ?? now),
  )
  return positions.named(nearer(reduced, aimsOf(reduced, plan), positions, choice, cancelled))
}

/** Controls are searched together as one knob up to this many combinations. */
const togetherMost = 2048

/**
 * The parts of a chain, each as few nodes as its search can do with.
 *
 * @param apart the chain in fewer nodes, each control by itself
 */
function problemsOf(
  graph: Graph,
  apart: Graph,
  moved: ReadonlyMap<string, readonly Position[]>,
  plan: Plan,
  free: readonly FreeControl[],
): Pick<Problem, 'graph' | 'aims' | 'positions'>[] {
  const partsOf = (reduced: Graph, most: number) =>
    componentsOf(reduced, aimsOf(reduced, plan), free).map(({ controls, aims }) => ({
      graph: reduced,
      aims,
      positions: new Positions(reduced, controls, most),
    }))
  const parts = partsOf(apart, 0)
  return parts.every(isRows) ? parts : partsOf(reducedGraph(graph, moved, togetherMost), togetherMost)
}

function leastGivenUp(problem: Problem): Found | undefined {
  const wanted = search(problem, { mostOverDb: 0, mostOutsideDb: 0, goal: 'everything' })
  if (wanted || problem.cancelled()) return wanted
  const least = leastMissing(problem)
  if (!least || least.bound) return least
  const { score } = least
  return search(problem, {
    mostOverDb: worstOverDb(score),
    mostOutsideDb: worstOutsideDb(score),
    missing: score,
    goal: 'everything',
  })
}

/** Least unavoidable shortfall. Small ones are tried before large ones: the smaller, the more is ruled out. */
function leastMissing(problem: Problem): Found | undefined {
  for (const [mostOverDb, mostOutsideDb] of missSteps) {
    const found = search(problem, { mostOverDb, mostOutsideDb, goal: 'missing' })
    if (found) return found
    if (problem.cancelled()) return undefined
  }
  return undefined
}

/** Steps tried for the shortfall, dB: windows are given up before headroom. */
const missSteps = [
  ...[2, 6, 18, 60, Infinity].map((outsideDb) => [0, outsideDb] as const),
  ...[3, 9, 27, Infinity].map((overDb) => [overDb, Infinity] as const),
] as const

function search(problem: Problem, demands: Demands): Found | undefined {
  if (problem.cancelled()) return undefined
  const narrow = narrowing(problem, demands)
  const whole = narrow(problem.positions.whole())
  if (!whole) return undefined
  const found = isRows(problem)
    ? searchRows(problem, demands, whole)
    : searchBranches(problem, demands, whole, narrow)
  return problem.cancelled() ? undefined : found
}
