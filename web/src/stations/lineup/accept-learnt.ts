import { type LearntChange, withLearnt } from '@iron-hush/core/lineup'
import { type Gear, known } from '@iron-hush/core/model'
import type { Act } from '../../state/deed'
import { useGear } from '../../state/gear'
import { historyPlaces, useHistory } from '../../state/history'
import { useScene } from '../../state/scene'
import { newId } from '../../sync/new-id'

/** Puts what was learnt into one's own copy of a box, which the scene then uses; undone on Line-up as one deed. */
export function useLearnt() {
  const scene = useScene()
  const gear = useGear()
  const history = useHistory()
  const put = (content: Gear): Act => ({ do: 'put', kind: 'gear', content })

  const ownOf = (thing: Gear, changes: readonly LearntChange[]): Gear =>
    withLearnt(thing, changes, gear.all, { at: new Date().toISOString(), id: newId })

  function accept(box: string, thing: Gear, changes: readonly LearntChange[]): void {
    const next = ownOf(thing, changes)
    const before = gear.of(next.id)
    const swap = before
      ? { redo: [], undo: [put(before)] }
      : scene.actsOf([{ kind: 'swap', part: box, gear: next.id }], [next])
    history.perform(historyPlaces.scene(known(scene.document, 'an open scene').id), {
      name: `figures learnt of ${thing.name}`,
      redo: [put(next), ...swap.redo],
      undo: swap.undo,
    })
  }
  return { ownOf, accept }
}
