import { computed, type Ref, shallowRef } from 'vue'
import type { SceneDocument } from '@iron-hush/core/contract'
import { type Edit, inverseOf } from '@iron-hush/core/edits'
import { type Patch, Refusal, type Shelf } from '@iron-hush/core/model'
import { editActs } from './deed'
import { historyPlaces, useHistory } from './history'
import { useNotices } from './notices'

/** Two versions of the scene, of which one must be chosen. */
interface Conflict {
  theirs: SceneDocument
  mine: Edit[]
}

/** What takes edits back on a version that they may not fit. */
function backFrom(patch: Patch, edits: readonly Edit[], shelf: Shelf): Edit[] {
  try {
    return inverseOf(patch, edits, shelf)
  } catch (error) {
    if (error instanceof Refusal) return []
    throw error
  }
}

/**
 * What another window did and what was done here meanwhile: one of them is chosen, and the choice can be undone. A scene
 * that is not open keeps its choice until it is.
 */
export function useSceneConflict(
  { document, shelf }: { document: Ref<SceneDocument | undefined>; shelf: Ref<Shelf> },
  act: { show: (scene: SceneDocument) => void; perform: (edits: Edit[]) => boolean },
) {
  const history = useHistory()
  const conflicts = shallowRef<ReadonlyMap<string, Conflict>>(new Map())
  const conflict = computed(() => document.value && conflicts.value.get(document.value.id))

  function meet(theirs: SceneDocument, edits: readonly Edit[]): void {
    const { id } = theirs
    const mine = [...(conflicts.value.get(id)?.mine ?? []), ...edits]
    conflicts.value = new Map([...conflicts.value, [id, { theirs, mine }]])
    if (document.value?.id !== id)
      useNotices().say(
        `“${theirs.patch.name}” was changed in another window too. Open it to choose which version to keep.`,
      )
  }
  /** Shows their version, and gives what was done here. */
  function settle(): Edit[] {
    const choice = conflict.value
    if (!choice) return []
    conflicts.value = new Map([...conflicts.value].filter(([id]) => id !== choice.theirs.id))
    act.show(choice.theirs)
    return choice.mine
  }
  /** Their version, and our changes put on top of it. What no longer fits is named. */
  function keepMine(): void {
    for (const edit of settle()) act.perform([edit])
  }
  /** Their version; ours can be had back by undo. */
  function keepTheirs(): void {
    if (!conflict.value) return
    const { id, patch } = conflict.value.theirs
    const mine = settle()
    history.done(historyPlaces.scene(id), {
      name: 'using the other version',
      undo: editActs(mine),
      redo: editActs(backFrom(patch, mine, shelf.value)),
    })
  }
  return { conflict, meet, keepMine, keepTheirs }
}
