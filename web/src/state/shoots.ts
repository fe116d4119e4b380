import { defineStore } from 'pinia'
import { type Ref, ref } from 'vue'
import {
  createScene,
  deleteScene,
  deleteShoot,
  editScene,
  listShoots,
  moveScene,
  putShoot,
  readScene,
  restoreDemo,
  restoreScene,
  restoreShoot,
  type SceneSummary,
  Shoot,
  type ShootFacts,
} from '@iron-hush/core/contract'
import type { Patch } from '@iron-hush/core/model'
import { ask, ServerAway } from '../sync/ask'
import { newId } from '../sync/new-id'
import { useOutbox } from '../sync/outbox'
import { useHistory } from './history'
import { useNotices } from './notices'

type Perform = (name: string, redo: () => Promise<unknown>, undo: () => Promise<unknown>) => Promise<boolean>

/** All shoots with their scenes, and what is done with them. Every change can be undone. */
export const useShoots = defineStore('shoots', () => {
  const list = ref<Shoot[]>([])
  const load = () => loadInto(list)
  const history = useHistory()

  /** Asks the server, then shows what it has; false, with a notice, where it refuses or is away. */
  async function act(request: () => Promise<unknown>): Promise<boolean> {
    try {
      await request()
      await load()
      return true
    } catch (error) {
      useNotices().say(`${error instanceof Error ? error.message : String(error)} Nothing was changed.`)
      return false
    }
  }
  /** Does it, and keeps how it is taken back. */
  async function perform(...[name, redo, undo]: Parameters<Perform>): Promise<boolean> {
    const done = await act(redo)
    if (done) history.done({ name, undo: () => void act(undo), redo: () => void act(redo) })
    return done
  }
  const bringDemo = () => act(() => ask(restoreDemo))
  return { list, load, bringDemo, patchOf, ...shootActions(perform), ...sceneActions(perform) }
})

/** What the server has; while it is away, what it had when it was last asked. */
async function loadInto(list: Ref<Shoot[]>): Promise<void> {
  const { storage } = useOutbox()
  try {
    list.value = await ask(listShoots)
    const rows = list.value.map((shoot) => ({ id: shoot.id, revision: 1, content: shoot }))
    storage.keepDocuments('shoot', '', rows)
  } catch (error) {
    const kept = error instanceof ServerAway ? await storage.documents('shoot', '') : []
    if (kept.length === 0) throw error
    list.value = kept.flatMap(({ content }) => Shoot.safeParse(content).data ?? [])
  }
}

const patchOf = async (id: string): Promise<Patch> => (await ask(readScene, { id })).patch

function shootActions(perform: Perform) {
  /** Makes a shoot; gives its id, or nothing where it was refused. */
  async function makeShoot(facts: ShootFacts): Promise<string | undefined> {
    const id = newId()
    const done = await perform(
      `making ${facts.name}`,
      () => ask(putShoot, { id, body: facts }).then(() => ask(restoreShoot, { id })),
      () => ask(deleteShoot, { id }),
    )
    return done ? id : undefined
  }
  const changeShoot = ({ id, name, date, place }: Shoot, facts: ShootFacts) =>
    perform(
      `${name}: what is said of it`,
      () => ask(putShoot, { id, body: facts }),
      () => ask(putShoot, { id, body: { name, date, place } }),
    )
  const removeShoot = ({ id, name }: Shoot) =>
    perform(
      `deleting ${name}`,
      () => ask(deleteShoot, { id }),
      () => ask(restoreShoot, { id }),
    )
  return { makeShoot, changeShoot, removeShoot }
}

function sceneActions(perform: Perform) {
  /** Makes a scene at the end of a shoot; gives its id, or nothing where it was refused. */
  async function makeScene(shoot: string, patch: Patch): Promise<string | undefined> {
    const id = newId()
    const done = await perform(
      `making ${patch.name}`,
      () => ask(createScene, { id, body: { shoot, patch } }).then(() => ask(restoreScene, { id })),
      () => ask(deleteScene, { id }),
    )
    return done ? id : undefined
  }
  const removeScene = ({ id, name }: SceneSummary) =>
    perform(
      `deleting ${name}`,
      () => ask(deleteScene, { id }),
      () => ask(restoreScene, { id }),
    )
  const renameScene = ({ id, name }: SceneSummary, to: string) =>
    perform(
      `renaming ${name}`,
      () => rename(id, to),
      () => rename(id, name),
    )
  async function copyScene(shoot: Shoot, { id, name }: SceneSummary): Promise<void> {
    const patch = await patchOf(id)
    await makeScene(shoot.id, { ...patch, name: `${name}, copy`.slice(0, 120) })
  }
  function move(from: Shoot, { id, name }: SceneSummary, to: { shoot: string; position: number }) {
    const before = { shoot: from.id, position: from.scenes.findIndex((each) => each.id === id) }
    return perform(
      `moving ${name}`,
      () => ask(moveScene, { id, body: to }),
      () => ask(moveScene, { id, body: before }),
    )
  }
  return { makeScene, removeScene, renameScene, copyScene, move }
}

/** Renames a scene that need not be open. */
async function rename(id: string, name: string): Promise<void> {
  const { revision } = await ask(readScene, { id })
  await ask(editScene, {
    id,
    body: { id: newId(), baseRevision: revision, edits: [{ kind: 'rename', name }] },
  })
}
