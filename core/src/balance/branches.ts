import { chainOf } from '../chain'
import { scoreOf } from './aims'
import { boundsOn } from './bounds'
import { Heap } from './heap'
import { compareDemands, compareScores, type Score, tenths, worstOutsideDb, worstOverDb } from './objective'
import type { Choice, Region } from './positions'
import type { Demands, Found, Problem } from './problem'
import { Splitting } from './splitting'

/** Whether a score keeps what is demanded. */
export const keeps = (score: Score, { mostOverDb, mostOutsideDb, missing }: Demands): boolean =>
  tenths(worstOverDb(score)) <= tenths(mostOverDb) &&
  tenths(worstOutsideDb(score)) <= tenths(mostOutsideDb) &&
  (!missing || compareDemands(score, { ...score, ...missing }) <= 0)

/** How scores are compared for a goal: negative when the first is nearer to it. */
export const compareFor: Record<Demands['goal'], (one: Score, other: Score) => number> = {
  missing: compareDemands,
  everything: compareScores,
}

interface Open {
  region: Region
  score: Score
}
/** So many regions are followed to the end when the work allowed is done. */
const dives = 20

/**
 * Branch and bound over all knobs together, best first: a region of positions is split until it holds one
 * combination, which is worked out whole. A region whose bounds break a demand, or do no better than what is found, is
 * dropped. Serves wherever a mix, a shared control or automatic gain entangles the chain.
 */
export function searchBranches(
  { graph, aims, positions, cancelled, exhausted, count, enoughHeadroomDb }: Problem,
  demands: Demands,
  whole: Region,
  narrow: (region: Region) => Region | undefined,
): Found | undefined {
  const bound = boundsOn(graph, aims, positions)
  const compare = compareFor[demands.goal]
  let best: Found | undefined
  const open = new Heap<Open>((one, other) => compare(one.score, other.score))
  const capped = (score: Score): Score => ({
    ...score,
    headroomDb: Math.min(score.headroomDb, enoughHeadroomDb),
  })
  const splitting = new Splitting(positions)
  /** Keeps a region for later where it may hold something better, and says what it is worth at most. */
  const put = (asked: Region): Score | undefined => {
    const region = narrow(asked)
    if (!region) return undefined
    const score = capped(bound(region))
    count(graph.nodes.length)
    if (!keeps(score, demands) || (best && compare(score, best.score) >= 0)) return undefined
    open.push({ region, score })
    return score
  }
  const workOut = (choice: Choice): boolean => {
    const chain = chainOf(graph, positions.readings(choice))
    count(graph.nodes.length)
    const score = capped(scoreOf(chain, aims, positions.changes(choice)))
    if (!keeps(score, demands) || (best && compare(score, best.score) >= 0)) return false
    best = { score, choice }
    return true
  }
  /** The best that can be found at once: down the likeliest region to one choice, and from there one knob at a time. */
  const unproved = (first: Open): Found | undefined => {
    const seeds = [first, ...open.some(dives - 1)].map(({ region }) =>
      likeliest(region, splitting, narrow, bound, compare),
    )
    for (const seed of seeds) if (seed) workOut(seed)
    while (best && positions.knobs.some((knob, index) => improve(index, knob.stops.length)));
    return best && { ...best, bound: first.score }
  }
  const improve = (knob: number, stops: number): boolean => {
    let improved = false
    for (let stop = 0; best && stop < stops && !cancelled(); stop++) {
      const choice = best.choice.slice()
      choice[knob] = stop
      improved = workOut(choice) || improved
    }
    return improved
  }
  put(whole)
  for (let next = open.pop(); next; next = open.pop()) {
    if (cancelled()) return undefined
    // the best that is left is no better than what is found: neither is anything else
    if (best && compare(next.score, best.score) >= 0) break
    if (exhausted()) return unproved(next)
    const knob = splitting.knobOf(next.region)
    if (knob === undefined) {
      workOut(next.region.low.slice())
      continue
    }
    for (const half of halvesOf(next.region, knob)) splitting.learn(knob, next.region, next.score, put(half))
  }
  return best
}

/** Down a region, always into the half with the better bound; undefined where nothing is left of it. */
function likeliest(
  region: Region,
  splitting: Splitting,
  narrow: (region: Region) => Region | undefined,
  bound: (region: Region) => Score,
  compare: (one: Score, other: Score) => number,
): Choice | undefined {
  for (let now: Region | undefined = region; now;) {
    const knob: number | undefined = splitting.knobOf(now)
    if (knob === undefined) return now.low.slice()
    const halves: { half: Region; score: Score }[] = halvesOf(now, knob).flatMap((asked) => {
      const half = narrow(asked)
      return half ? [{ half, score: bound(half) }] : []
    })
    now = halves.sort((one, other) => compare(one.score, other.score))[0]?.half
  }
  return undefined
}

function halvesOf({ low, high }: Region, knob: number): [Region, Region] {
  const middle = (low[knob]! + high[knob]!) >> 1
  const below: Region = { low, high: high.slice() }
  const above: Region = { low: low.slice(), high }
  below.high[knob] = middle
  above.low[knob] = middle + 1
  return [below, above]
}
