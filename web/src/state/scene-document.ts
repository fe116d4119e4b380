import { computed, type Ref, shallowRef } from 'vue'
import { editScene, readScene, SceneDocument } from '@iron-hush/core/contract'
import { applyEdits, type Edit, inverseOf } from '@iron-hush/core/edits'
import { Refusal, type Shelf } from '@iron-hush/core/model'
import { ask, type Refused, ServerAway } from '../sync/ask'
import { newId } from '../sync/new-id'
import { useOutbox } from '../sync/outbox'
import { idOfPlace, type Parcel } from '../sync/parcel'
import { useHistory } from './history'
import { useNotices } from './notices'

/** Two versions of the scene, of which one must be chosen. */
interface Conflict {
  theirs: SceneDocument
  mine: Edit[]
}

/** The scene in hand as this page has it: what the server has, and the edits that are on their way. */
export function useSceneDocument(shelf: Ref<Shelf>) {
  const outbox = useOutbox()
  const history = useHistory()
  const notices = useNotices()
  const document = shallowRef<SceneDocument>()
  const conflict = shallowRef<Conflict>()
  /** Scenes as the server has them. */
  const confirmed = new Map<string, SceneDocument>()
  const patch = computed(() => document.value?.patch)
  const place = (id: string) => `scene:${id}`

  async function open(id: string): Promise<void> {
    outbox.flush()
    document.value = await fromServer(id)
    history.forget()
    // what waits for the server is part of what the person has done
    for (const { errand } of outbox.waitingFor(place(id))) if (errand.do === 'edit') tryLocally(errand.edits)
  }

  /** The scene as the server has it; while it is away, as it was when it was last asked. */
  async function fromServer(id: string): Promise<SceneDocument> {
    try {
      const loaded = await ask(readScene, { id })
      confirm(loaded)
      return loaded
    } catch (error) {
      if (!(error instanceof ServerAway)) throw error
      const kept = (await outbox.storage.documents('scene', '')).find((each) => each.id === id)
      const read = SceneDocument.safeParse(kept?.content)
      if (!read.success) throw error
      confirmed.set(id, read.data)
      return read.data
    }
  }

  function confirm(scene: SceneDocument): void {
    confirmed.set(scene.id, scene)
    const { id, revision } = scene
    outbox.storage.keepDocument({ kind: 'scene', id, scope: '', revision, content: scene })
  }

  function adopt(loaded: SceneDocument): void {
    confirm(loaded)
    document.value = loaded
  }

  /** Applies edits to what is on the screen. False, with a notice, when they are refused. */
  function tryLocally(edits: readonly Edit[]): boolean {
    const now = document.value
    if (!now) return false
    try {
      document.value = { ...now, patch: applyEdits(now.patch, edits, shelf.value) }
      return true
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      notices.say(error.message)
      return false
    }
  }

  /** Changes the scene, here at once and on the server in a moment. Edits of one movement share a `merge` key. */
  function change(edits: Edit[], name: string, merge?: string): boolean {
    const before = patch.value
    if (!before || edits.length === 0) return false
    const back = inverseOf(before, edits, shelf.value)
    // a field that writes back what it was given is not a deed
    if (JSON.stringify(back) === JSON.stringify(edits)) return true
    if (!perform(edits, merge !== undefined)) return false
    history.done({ name, merge, undo: () => perform(back), redo: () => perform(edits) })
    return true
  }

  function perform(edits: Edit[], turning = false): boolean {
    if (!document.value || !tryLocally(edits)) return false
    outbox.post(place(document.value.id), { do: 'edit', change: newId(), edits }, turning)
    return true
  }

  async function send({ place: to, errand }: Parcel): Promise<void> {
    if (errand.do !== 'edit') return
    const id = idOfPlace(to)
    const before = confirmed.get(id) ?? (await fromServer(id))
    const { revision } = await ask(editScene, {
      id,
      body: { id: errand.change, baseRevision: before.revision, edits: errand.edits },
    })
    confirm({ ...before, revision, patch: applyEdits(before.patch, errand.edits, shelf.value) })
    if (document.value?.id === id) document.value = { ...document.value, revision }
  }

  function refused({ place: to, errand }: Parcel, { status, problem }: Refused): void {
    const id = idOfPlace(to)
    if (status === 409 && errand.do === 'edit') {
      const theirs = SceneDocument.parse(problem.theirs)
      if (document.value?.id === id)
        conflict.value = { theirs, mine: [...(conflict.value?.mine ?? []), ...errand.edits] }
    } else {
      notices.say(problem.detail)
      if (document.value?.id === id) void open(id)
    }
  }

  /** Their version, and our changes put on top of it. What no longer fits is named. */
  function keepMine(): void {
    const choice = conflict.value
    if (!choice) return
    conflict.value = undefined
    adopt(choice.theirs)
    for (const edit of choice.mine) perform([edit])
  }

  /** Their version; ours can be had back by undo. */
  function keepTheirs(): void {
    const choice = conflict.value
    if (!choice) return
    conflict.value = undefined
    adopt(choice.theirs)
    let undoing: Edit[] = []
    history.done({
      name: 'taking the other version',
      undo: () => {
        undoing = patch.value ? inverseOf(patch.value, choice.mine, shelf.value) : []
        perform(choice.mine)
      },
      redo: () => perform(undoing),
    })
  }

  /** Looks whether another tab moved on, when nothing of ours is under way. */
  async function refresh(): Promise<void> {
    const now = document.value
    if (!now || conflict.value || outbox.waitingFor(place(now.id)).length) return
    const latest = await ask(readScene, { id: now.id }).catch(() => undefined)
    if (latest && document.value === now && latest.revision > now.revision) adopt(latest)
  }

  const carry = () => outbox.carry('scene', { send, refused })

  return { document, patch, conflict, open, carry, change, keepMine, keepTheirs, refresh }
}
