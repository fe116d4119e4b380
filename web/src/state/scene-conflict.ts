import { type Ref, shallowRef } from 'vue'
import type { SceneDocument } from '@iron-hush/core/contract'
import { type Edit, inverseOf } from '@iron-hush/core/edits'
import type { Patch, Shelf } from '@iron-hush/core/model'
import { useHistory } from './history'

/** Two versions of the scene, of which one must be chosen. */
interface Conflict {
  theirs: SceneDocument
  mine: Edit[]
}

/** What another window did and what was done here meanwhile: one of them is chosen, and the choice can be undone. */
export function useSceneConflict(
  { patch, shelf }: { patch: Ref<Patch | undefined>; shelf: Ref<Shelf> },
  act: { show: (scene: SceneDocument) => void; perform: (edits: Edit[]) => boolean },
) {
  const history = useHistory()
  const conflict = shallowRef<Conflict>()

  function meet(theirs: SceneDocument, edits: readonly Edit[]): void {
    conflict.value = { theirs, mine: [...(conflict.value?.mine ?? []), ...edits] }
  }
  /** Shows their version, and gives what was done here. */
  function settle(): Edit[] {
    const choice = conflict.value
    if (!choice) return []
    conflict.value = undefined
    act.show(choice.theirs)
    return choice.mine
  }
  /** Their version, and our changes put on top of it. What no longer fits is named. */
  function keepMine(): void {
    for (const edit of settle()) act.perform([edit])
  }
  /** Their version; ours can be had back by undo. */
  function keepTheirs(): void {
    const mine = settle()
    if (mine.length === 0) return
    let undoing: Edit[] = []
    history.done({
      name: 'taking the other version',
      undo: () => {
        undoing = patch.value ? inverseOf(patch.value, mine, shelf.value) : []
        act.perform(mine)
      },
      redo: () => act.perform(undoing),
    })
  }
  return { conflict, meet, keepMine, keepTheirs }
}
