import { chainOf, type Graph } from '../chain'
import { type Aims, scoreOf } from './aims'
import { compareScores } from './objective'
import type { Choice, Positions } from './positions'

/** Largest number of positions that two controls are moved against each other. */
const pairReach = 2

/**
 * The same score with smaller moves: each control that was moved goes back towards its current position as far as nothing is
 * lost by it, alone and against one other. Many settings are worth the same to a tenth of a decibel; a hand turns the
 * least.
 *
 * @param positions one knob for each control
 */
export function nearer(
  graph: Graph,
  aims: Aims,
  positions: Positions,
  found: Choice,
  cancelled: () => boolean,
): Choice {
  const worth = (choice: Choice) =>
    scoreOf(chainOf(graph, positions.readings(choice)), aims, positions.changes(choice))
  const best = worth(found)
  const choice = found.slice()
  /** Takes a change where it costs nothing. */
  const take = (changes: readonly (readonly [knob: number, stop: number])[]): boolean => {
    const before = changes.map(([knob]) => choice[knob]!)
    for (const [knob, stop] of changes) choice[knob] = stop
    if (compareScores(worth(choice), best) === 0) return true
    changes.forEach(([knob], index) => (choice[knob] = before[index]!))
    return false
  }
  const away = (knob: number) => choice[knob]! - positions.now[knob]!
  const movedKnobs = () => positions.knobs.flatMap((_, knob) => (away(knob) === 0 ? [] : [knob]))
  const singly = (): boolean => {
    let moved = false
    for (const knob of movedKnobs()) {
      const [from, to] = [positions.now[knob]!, choice[knob]!]
      const towards = Math.sign(to - from)
      for (let stop = from; stop !== to; stop += towards)
        if (take([[knob, stop]])) {
          moved = true
          break
        }
    }
    return moved
  }
  const pairwise = (): boolean => {
    for (const one of movedKnobs())
      for (const other of movedKnobs()) {
        if (one === other) continue
        for (const [back, forth] of pairSteps) {
          if (cancelled()) return false
          const ahead = Math.sign(away(one)) * Math.min(back, Math.abs(away(one)))
          const beside = choice[other]! + forth
          const saved = Math.abs(ahead) + Math.abs(away(other)) - Math.abs(beside - positions.now[other]!)
          if (saved <= 0 || beside < 0 || beside >= positions.knobs[other]!.stops.length) continue
          if (
            take([
              [one, choice[one]! - ahead],
              [other, beside],
            ])
          )
            return true
        }
      }
    return false
  }
  while (!cancelled() && (singly() || pairwise()));
  return choice
}

/** Steps of two controls moved together. */
const pairSteps = Array.from({ length: pairReach }, (_, index) => index + 1).flatMap((back) =>
  [-2, -1, 1, 2].map((forth) => [back, forth] as const),
)
