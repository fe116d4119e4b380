import { type PositionOf, chainOf, graphOf, asSet } from '../chain'
import { applyEdits, type Edit } from '../edits'
import { type Patch, type Position, positionsOf, type Shelf } from '../model'
import { aimsOf, scoreOf } from './aims'
import { freeControls } from './balance'
import { type Score, worstOutsideDb, worstRatioDb } from './objective'

/** Effect of one step of a control on the plan, relative to the present positions. */
export interface Price {
  part: string
  control: string
  from: Position
  to: Position
  /** Change of speech-to-noise of the worst recording that counts, of the least headroom, and of the worst miss of a window, dB. */
  speechToNoiseDb: number
  headroomDb: number
  outsideDb: number
}

/**
 * The price of both neighbouring positions of every control that is not locked, or of those named, with everything
 * else at its current position.
 *
 * @param positions where the controls stand, by `part.control`, where not as the patch has them
 */
export function pricesOf(
  patch: Patch,
  shelf: Shelf,
  positions: ReadonlyMap<string, Position> = new Map(),
  only?: ReadonlySet<string>,
): Price[] {
  const edits = [...positions].map(([key, position]): Edit => {
    const [part, control] = key.split('.') as [string, string]
    return { kind: 'set control', part, control, position }
  })
  const graph = graphOf(applyEdits(patch, edits, shelf), shelf)
  const aims = aimsOf(graph, patch.plan)
  const current: PositionOf = asSet(graph)
  const worth = (at: PositionOf): Score =>
    scoreOf(
      chainOf(
        graph,
        graph.nodes.map(({ read }) => read(at)),
      ),
      aims,
    )
  const now = worth(current)
  return freeControls(graph, patch, shelf)
    .filter(({ key }) => !only || only.has(key))
    .flatMap(({ key, control }) => {
      const all = positionsOf(control)
      const index = all.indexOf(current(key))
      return [all[index - 1], all[index + 1]].flatMap((to): Price[] => {
        if (to === undefined) return []
        const then = worth((each) => (each === key ? to : current(each)))
        const [part, id] = key.split('.') as [string, string]
        return [
          {
            part,
            control: id,
            from: current(key),
            to,
            speechToNoiseDb: difference(worstRatioDb(then), worstRatioDb(now)),
            headroomDb: difference(then.headroomDb, now.headroomDb),
            outsideDb: difference(worstOutsideDb(then), worstOutsideDb(now)),
          },
        ]
      })
    })
}

const difference = (one: number, other: number): number =>
  Number.isFinite(one) && Number.isFinite(other) ? one - other : 0
