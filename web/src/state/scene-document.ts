import { useDebounceFn } from '@vueuse/core'
import { computed, type Ref, shallowRef } from 'vue'
import { editScene, readScene, SceneDocument } from '@iron-hush/core/contract'
import { applyEdits, type Edit, inverseOf } from '@iron-hush/core/edits'
import { type Gear, known, Refusal, type Shelf } from '@iron-hush/core/model'
import { ask, type Refused } from '../sync/ask'
import { newId } from '../sync/new-id'
import { gatherMs, useLive } from '../sync/live'
import { useOutbox } from '../sync/outbox'
import { idOfPlace, type Parcel } from '../sync/parcel'
import { plain } from '../sync/plain'
import { type Deed, editActs } from './deed'
import { historyPlaces, useHistory } from './history'
import { useNotices } from './notices'
import { useSceneConflict } from './scene-conflict'
import { useStoredScenes } from './stored-scenes'

/** Does something once the shelf is whole: at once, where it is. */
type WholeShelf = (then: () => unknown) => void

const placeOf = (id: string) => `scene:${id}`

/** The open scene as this page has it: what the server has, and the edits that are on their way. */
export function useSceneDocument({ shelf, whole }: { shelf: Ref<Shelf>; whole: WholeShelf }) {
  const outbox = useOutbox()
  const history = useHistory()
  const stored = useStoredScenes()
  const document = shallowRef<SceneDocument>()
  const patch = computed(() => document.value?.patch)
  const tryLocally = useLocalEdits(document, shelf)
  const { conflict, meet, ...choice } = useSceneConflict({ document, shelf }, { show, perform })

  history.carry('edit', ({ edits }) => whole(() => perform(edits)))

  async function open(id: string): Promise<void> {
    outbox.flush()
    // what waits goes first: the server may have it already, and only its answer was lost
    await outbox.push(placeOf(id))
    document.value = await stored.load(id)
    // what still waits for the server is part of what the person has done
    for (const { errand } of outbox.waitingFor(placeOf(id)))
      if (errand.do === 'edit') tryLocally(errand.edits)
  }
  function show(loaded: SceneDocument): void {
    stored.store(loaded)
    document.value = loaded
  }

  /** Changes the scene, here at once and on the server in a moment. Edits of one movement share a `merge` key. */
  function change(asked: Edit[], name: string, merge?: string): boolean {
    const now = document.value
    if (!now || asked.length === 0) return false
    const edits = plain(asked)
    const back = inverseOf(now.patch, edits, shelf.value)
    // a field that writes back what it was given changes nothing
    if (JSON.stringify(back) === JSON.stringify(edits)) return true
    if (!perform(edits, merge !== undefined)) return false
    history.done(historyPlaces.scene(now.id), { name, merge, undo: editActs(back), redo: editActs(edits) })
    return true
  }
  /** What does edits and what takes them back, for a deed that is undone elsewhere than where the scene is drawn. */
  function actsOf(asked: Edit[], withGear: readonly Gear[] = []): Pick<Deed, 'redo' | 'undo'> {
    const now = known(document.value, 'an open scene')
    const edits = plain(asked)
    const all = new Map([...shelf.value, ...withGear.map((thing) => [thing.id, thing] as const)])
    return { redo: editActs(edits), undo: editActs(inverseOf(now.patch, edits, all)) }
  }
  function perform(edits: Edit[], turning = false): boolean {
    if (!document.value || !tryLocally(edits)) return false
    outbox.post(placeOf(document.value.id), { do: 'edit', change: newId(), edits }, turning)
    return true
  }

  const refresh = useLatest(document, conflict, show)
  const carry = () => outbox.carry('scene', sceneCarrier({ document, shelf, stored, meet, open, tryLocally }))
  return { document, patch, conflict, open, carry, change, actsOf, refresh, ...choice }
}

/** Looks whether another tab or device moved on, when nothing of ours is under way: when notified, and when asked. */
function useLatest(
  document: Ref<SceneDocument | undefined>,
  conflict: Ref<unknown>,
  show: (latest: SceneDocument) => void,
): () => Promise<void> {
  const outbox = useOutbox()
  async function refresh(): Promise<void> {
    const now = document.value
    if (!now || conflict.value || outbox.waitingFor(placeOf(now.id)).length) return
    const latest = await ask(readScene, { id: now.id }).catch(() => undefined)
    if (latest && document.value === now && latest.revision > now.revision) show(latest)
  }
  const look = useDebounceFn(refresh, gatherMs)
  useLive().on((heard) => {
    const now = document.value
    if (heard === 'missed' || (heard.id === now?.id && (heard.revision ?? 0) > now.revision)) void look()
  })
  return refresh
}

/** Applies edits to what is on the screen. False, with a notice, when they are refused. */
function useLocalEdits(document: Ref<SceneDocument | undefined>, shelf: Ref<Shelf>) {
  const notices = useNotices()
  return (edits: readonly Edit[]): boolean => {
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
}

/** Takes edits of scenes to the server. */
function sceneCarrier({
  document,
  shelf,
  stored,
  meet,
  open,
  tryLocally,
}: {
  document: Ref<SceneDocument | undefined>
  shelf: Ref<Shelf>
  stored: ReturnType<typeof useStoredScenes>
  meet: (theirs: SceneDocument, mine: readonly Edit[]) => void
  open: (id: string) => Promise<void>
  tryLocally: (edits: readonly Edit[]) => boolean
}) {
  async function send({ place, errand }: Parcel): Promise<void> {
    if (errand.do !== 'edit') return
    const id = idOfPlace(place)
    const before = await stored.latest(id)
    const { revision } = await ask(editScene, {
      id,
      body: { id: errand.change, baseRevision: before.revision, edits: errand.edits },
    })
    // sent a second time, because the first answer was lost: what was read since has it already
    if (revision <= before.revision) return
    stored.store({ ...before, revision, patch: applyEdits(before.patch, errand.edits, shelf.value) })
    if (document.value?.id === id) document.value = { ...document.value, revision }
  }
  function refused({ place, errand }: Parcel, { status, problem }: Refused): boolean {
    const isOpen = document.value?.id === idOfPlace(place)
    if (status === 409 && errand.do === 'edit') {
      meet(SceneDocument.parse(problem.theirs), errand.edits)
      return true
    }
    if (isOpen) void open(idOfPlace(place))
    return false
  }
  function adopted({ place, errand }: Parcel): void {
    if (errand.do === 'edit' && document.value?.id === idOfPlace(place)) tryLocally(errand.edits)
  }
  return { send, refused, adopted }
}
