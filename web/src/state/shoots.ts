import { defineStore } from 'pinia'
import { useDebounceFn } from '@vueuse/core'
import { type Ref, ref, toRaw } from 'vue'
import type { z } from 'zod'
import {
  createScene,
  deleteScene,
  deleteShoot,
  editScene,
  listShoots,
  moveScene,
  putShoot,
  readScene,
  type Request,
  restoreDemo,
  restoreScene,
  restoreShoot,
  type SceneSummary,
  Shoot,
  ShootFacts,
} from '@iron-hush/core/contract'
import { cutToName, Name, type Patch } from '@iron-hush/core/model'
import { ask, askAll, ServerAway } from '../sync/ask'
import { newId } from '../sync/new-id'
import { inOrder } from '../sync/in-order'
import { gatherMs, useLive } from '../sync/live'
import { useOutbox } from '../sync/outbox'
import { isSameList } from '../sync/same-list'
import type { Act, ShootRequest } from './deed'
import { historyPlaces, useHistory } from './history'
import { useNotices } from './notices'

type ShootAct = Extract<Act, { do: 'ask' }>
/** @param undo may be told from how things stand when its turn comes: what was done before may still be on its way */
type Perform = (name: string, redo: ShootAct[], undo: ShootAct[] | (() => ShootAct[])) => Promise<boolean>

/** All shoots with their scenes, and what is done with them. Every change can be undone. */
export const useShoots = defineStore('shoots', () => {
  const list = ref<Shoot[]>([])
  const latest = inOrder()
  async function load(): Promise<void> {
    const stored = await latest(storedShoots)
    if (stored && !isSameList(stored, toRaw(list.value))) list.value = stored
  }
  const history = useHistory()
  history.carry('ask', (act) => tried(() => answered(act, list.value)))

  /**
   * Asks the server, then shows what it has; false, with a notice, where it refuses or is away. One thing after another:
   * each is asked for on top of what the one before left.
   */
  function tried(request: () => Promise<unknown>): Promise<boolean> {
    const mine = last.then(() => tryNow(request))
    last = mine
    return mine
  }
  let last: Promise<unknown> = Promise.resolve()
  async function tryNow(request: () => Promise<unknown>): Promise<boolean> {
    try {
      await request()
      // it is done, also where the list cannot be read again just now
      await load().catch(() => undefined)
      return true
    } catch (error) {
      useNotices().say(`${error instanceof Error ? error.message : String(error)} Nothing was changed.`)
      return false
    }
  }
  /** Does it, and notes how it is taken back. */
  async function perform(...[name, redo, undo]: Parameters<Perform>): Promise<boolean> {
    let back: ShootAct[] = []
    const done = await tried(async () => {
      back = typeof undo === 'function' ? undo() : undo
      for (const act of redo) await answered(act, list.value)
    })
    if (done) history.done(historyPlaces.shoots, { name, undo: back, redo })
    return done
  }
  const read = useDebounceFn(() => load().catch(() => undefined), gatherMs)
  useLive().on((heard) => {
    if (heard === 'missed' || heard.kind === 'shoot' || heard.kind === 'scene') void read()
  })
  const bringDemo = () => tried(() => ask(restoreDemo))
  return { list, load, bringDemo, patchOf, ...shootActions(perform, list), ...sceneActions(perform, list) }
})

/** The server's documents; while it is away, those of the last answer. */
async function storedShoots(): Promise<Shoot[]> {
  const { storage } = useOutbox()
  try {
    const shoots = await askAll(listShoots)
    const rows = shoots.map((shoot) => ({ id: shoot.id, revision: 1, content: shoot }))
    storage.keepDocuments('shoot', '', rows)
    return shoots
  } catch (error) {
    const kept = error instanceof ServerAway ? await storage.documents('shoot', '') : []
    if (kept.length === 0) throw error
    return kept.flatMap(({ content }) => Shoot.safeParse(content).data ?? [])
  }
}

const patchOf = async (id: string): Promise<Patch> => (await ask(readScene, { id })).patch

const requests = {
  putShoot,
  deleteShoot,
  restoreShoot,
  createScene,
  deleteScene,
  restoreScene,
  moveScene,
} satisfies Record<Exclude<z.infer<typeof ShootRequest>, 'renameScene'>, Request>

/** Asks the server for what an act says; a change of a shoot is of what this page knows of it. */
function answered({ request, id, body }: ShootAct, shoots: readonly Shoot[]): Promise<unknown> {
  if (request === 'renameScene') return rename(id, Name.parse(body))
  const asked: Request = requests[request]
  if (request === 'putShoot') {
    const now = shoots.find((shoot) => shoot.id === id)
    const content = ShootFacts.parse({ ...(now && factsOf(now)), ...(body as object) })
    return ask(putShoot, { id, body: { baseRevision: now?.revision ?? 0, content } })
  }
  return ask(asked, { id, body: asked.body?.parse(body) as never })
}
const asking = (request: ShootAct['request'], id: string, body?: unknown): ShootAct => ({
  do: 'ask',
  request,
  id,
  body,
})

const factsOf = ({ name, date, place }: Shoot): ShootFacts => ({ name, date, place })

function shootActions(perform: Perform, list: Ref<Shoot[]>) {
  /** Makes a shoot; gives its id, or nothing where it was refused. */
  async function makeShoot(facts: ShootFacts): Promise<string | undefined> {
    const id = newId()
    const made = [asking('putShoot', id, facts), asking('restoreShoot', id)]
    return (await perform(`making ${facts.name}`, made, [asking('deleteShoot', id)])) ? id : undefined
  }
  /** Changes some of what is said of a shoot, and leaves the rest as it is by then. */
  const changeShoot = ({ id, ...shown }: Shoot, change: Partial<ShootFacts>) =>
    perform(`${shown.name}: what is said of it`, [asking('putShoot', id, change)], () => {
      const now = list.value.find((shoot) => shoot.id === id) ?? shown
      const before = (Object.keys(change) as (keyof ShootFacts)[]).map((field) => [field, now[field]])
      return [asking('putShoot', id, Object.fromEntries(before))]
    })
  const removeShoot = ({ id, name }: Shoot) =>
    perform(`deleting ${name}`, [asking('deleteShoot', id)], [asking('restoreShoot', id)])
  return { makeShoot, changeShoot, removeShoot }
}

function sceneActions(perform: Perform, list: Ref<Shoot[]>) {
  const nameNow = (id: string) =>
    list.value.flatMap(({ scenes }) => scenes).find((each) => each.id === id)?.name
  /** Makes a scene at the end of a shoot; gives its id, or nothing where it was refused. */
  async function makeScene(shoot: string, patch: Patch): Promise<string | undefined> {
    const id = newId()
    const made = [asking('createScene', id, { shoot, patch }), asking('restoreScene', id)]
    return (await perform(`making ${patch.name}`, made, [asking('deleteScene', id)])) ? id : undefined
  }
  const removeScene = ({ id, name }: SceneSummary) =>
    perform(`deleting ${name}`, [asking('deleteScene', id)], [asking('restoreScene', id)])
  const renameScene = ({ id, name }: SceneSummary, to: string) =>
    perform(`renaming ${name}`, [asking('renameScene', id, to)], () => [
      asking('renameScene', id, nameNow(id) ?? name),
    ])
  async function copyScene(shoot: Shoot, { id, name }: SceneSummary): Promise<void> {
    const patch = await patchOf(id)
    // what was lined up was that scene; figures that were learnt are on the shelf
    await makeScene(shoot.id, { ...patch, name: cutToName(`${name}, copy`), lineUp: [] })
  }
  function move(from: Shoot, { id, name }: SceneSummary, to: { shoot: string; position: number }) {
    const before = { shoot: from.id, position: from.scenes.findIndex((each) => each.id === id) }
    return perform(`moving ${name}`, [asking('moveScene', id, to)], [asking('moveScene', id, before)])
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
