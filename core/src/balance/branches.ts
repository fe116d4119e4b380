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
/** Regions still searched to the end once the work allowance is used up. */
const dives = 20
/** Combinations tried around the best of those regions. */
const mostAround = 1000

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
      // the best remaining region is no better than the answer, so nothing else is
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

  /** Queues a region that may contain something better, and returns the bound of its score. */
  private put(asked: Region): Score | undefined {
    const region = this.narrow(asked)
    if (!region) return undefined
    const score = this.capped(this.bound(region))
    this.problem.count(this.problem.graph.nodes.length)
    if (!keeps(score, this.demands) || !this.isBetter(score)) return undefined
    this.open.push({ region, score })
    return score
  }

  /** Keeps a combination if it is the best so far. */
  private workOut(choice: Choice): void {
    const found = this.worthOf(choice)
    if (keeps(found.score, this.demands) && this.isBetter(found.score)) this.found = found
  }

  private worthOf(choice: Choice): Found {
    const { graph, aims, positions, count } = this.problem
    const chain = chainOf(graph, positions.readings(choice))
    count(graph.nodes.length)
    return { score: this.capped(scoreOf(chain, aims, positions.changes(choice))), choice }
  }

  /**
   * The best that can be found at once: down the likeliest regions to one choice each, or from where the controls stand,
   * and from the best of these one knob at a time. Where nothing that was looked at keeps the demands, what misses least.
   */
  private unproved(first: Open): Found {
    const { positions } = this.problem
    const seeds = [first, ...this.open.some(dives - 1)].flatMap(({ region }) => this.likeliest(region) ?? [])
    const found = seeds
      .map((choice) => this.worthOf(choice))
      .reduce(better, this.found ?? this.worthOf(positions.now.slice()))
    // the bounds of the regions cover only the shortfall
    const bound =
      this.demands.goal === 'everything' ? first.score : this.capped(this.bound(positions.whole()))
    return { ...this.around(found), bound }
  }

  /** The best that is met from a choice on, one knob at a time. */
  private around(found: Found): Found {
    const { positions, cancelled } = this.problem
    let best = found
    let left = mostAround
    for (let before; best !== before && left > 0 && !cancelled();) {
      before = best
      for (const [knob, { stops }] of positions.knobs.entries())
        for (let stop = 0; stop < stops.length && left > 0; stop++, left--) {
          const choice = best.choice.slice()
          choice[knob] = stop
          best = better(best, this.worthOf(choice))
        }
    }
    return best
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

const better = (one: Found, other: Found): Found => (compareScores(other.score, one.score) < 0 ? other : one)

function halvesOf({ low, high }: Region, knob: number): [Region, Region] {
  const middle = (low[knob]! + high[knob]!) >> 1
  const below: Region = { low, high: high.slice() }
  const above: Region = { low: low.slice(), high }
  below.high[knob] = middle
  above.low[knob] = middle + 1
  return [below, above]
}
