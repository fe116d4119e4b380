import type { Graph } from '../chain'
import type { Aims } from './aims'
import type { Score } from './objective'
import type { Choice, Positions } from './positions'

/** Constraints on every answer, and the objective. */
export interface Demands {
  /** The most that any recording may miss to its margin, and to its window, dB. */
  mostOverDb: number
  mostOutsideDb: number
  /** Allowed shortfalls of the recordings together, worst first; left out: no limit beyond the two above. */
  missing?: Pick<Score, 'overDb' | 'outsideDb'>
  /** The objective: least shortfall, or the whole score. */
  goal: 'missing' | 'everything'
}

export interface Found {
  score: Score
  choice: Choice
  /** If the work allowance ran out: bound on the score of choices not examined. Left out: this is the best. */
  bound?: Score
}

/** The problem that a search solves. */
export interface Problem {
  graph: Graph
  aims: Aims
  positions: Positions
  cancelled: () => boolean
  /** Whether the work allowance is used up: the best so far is then the answer, with the remaining bound. */
  exhausted: () => boolean
  /** More headroom than this is worth nothing, dB. */
  enoughHeadroomDb: number
  /** Adds to the count of stage evaluations. */
  count: (evaluations: number) => void
}
