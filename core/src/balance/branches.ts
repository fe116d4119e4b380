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
export const searchBranches = (
  problem: Problem,
  demands: Demands,
  whole: Region,
  narrow: (region: Region) => Region | undefined,
): Found | undefined => new BranchSearch(problem, demands, narrow).best(whole)

class BranchSearch {
  private readonly bound: (region: Region) => Score
  private readonly compare: (one: Score, other: Score) => number
  private readonly open: Heap<Open>
  private readonly splitting: Splitting
  private found: Found | undefined

  constructor(
    private readonly problem: Problem,
    private readonly demands: Demands,
    private readonly narrow: (region: Region) => Region | undefined,
  ) {
    const { graph, aims, positions } = problem
    this.bound = boundsOn(graph, aims, positions)
    this.compare = compareFor[demands.goal]
    this.open = new Heap((one, other) => this.compare(one.score, other.score))
    this.splitting = new Splitting(positions)
  }

  best(whole: Region): Found | undefined {
    const { cancelled, exhausted } = this.problem
    this.put(whole)
    for (let next = this.open.pop(); next; next = this.open.pop()) {
      if (cancelled()) return undefined
      // the best that is left is no better than what is found: neither is anything else
      if (!this.isBetter(next.score)) break
      if (exhausted()) return this.unproved(next)
      const knob = this.splitting.knobOf(next.region)
      if (knob === undefined) {
        this.workOut(next.region.low.slice())
        continue
      }
      for (const half of halvesOf(next.region, knob))
        this.splitting.learn(knob, next.region, next.score, this.put(half))
    }
    return this.found
  }

  private isBetter(score: Score): boolean {
    return !this.found || this.compare(score, this.found.score) < 0
  }

  private capped(score: Score): Score {
    return { ...score, headroomDb: Math.min(score.headroomDb, this.problem.enoughHeadroomDb) }
  }

  /** Keeps a region for later where it may hold something better, and says what it is worth at most. */
  private put(asked: Region): Score | undefined {
    const region = this.narrow(asked)
    if (!region) return undefined
    const score = this.capped(this.bound(region))
    this.problem.count(this.problem.graph.nodes.length)
    if (!keeps(score, this.demands) || !this.isBetter(score)) return undefined
    this.open.push({ region, score })
    return score
  }

  /** Works one combination out; true when it is the best so far. */
  private workOut(choice: Choice): boolean {
    const { graph, aims, positions, count } = this.problem
    const chain = chainOf(graph, positions.readings(choice))
    count(graph.nodes.length)
    const score = this.capped(scoreOf(chain, aims, positions.changes(choice)))
    if (!keeps(score, this.demands) || !this.isBetter(score)) return false
    this.found = { score, choice }
    return true
  }

  /** The best that can be found at once: down the likeliest region to one choice, and from there one knob at a time. */
  private unproved(first: Open): Found | undefined {
    const seeds = [first, ...this.open.some(dives - 1)].map(({ region }) => this.likeliest(region))
    for (const seed of seeds) if (seed) this.workOut(seed)
    while (
      this.found &&
      this.problem.positions.knobs.some(({ stops }, knob) => this.improve(knob, stops.length))
    );
    return this.found && { ...this.found, bound: first.score }
  }

  private improve(knob: number, stops: number): boolean {
    let improved = false
    for (let stop = 0; this.found && stop < stops && !this.problem.cancelled(); stop++) {
      const choice = this.found.choice.slice()
      choice[knob] = stop
      improved = this.workOut(choice) || improved
    }
    return improved
  }

  /** Down a region, always into the half with the better bound; undefined where nothing is left of it. */
  private likeliest(region: Region): Choice | undefined {
    for (let now: Region | undefined = region; now;) {
      const knob = this.splitting.knobOf(now)
      if (knob === undefined) return now.low.slice()
      const halves: Open[] = halvesOf(now, knob).flatMap((asked) => {
        const half = this.narrow(asked)
        return half ? [{ region: half, score: this.bound(half) }] : []
      })
      now = halves.sort((one, other) => this.compare(one.score, other.score))[0]?.region
    }
    return undefined
  }
}

function halvesOf({ low, high }: Region, knob: number): [Region, Region] {
  const middle = (low[knob]! + high[knob]!) >> 1
  const below: Region = { low, high: high.slice() }
  const above: Region = { low: low.slice(), high }
  below.high[knob] = middle
  above.low[knob] = middle + 1
  return [below, above]
}
