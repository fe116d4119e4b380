import { deleteDB } from 'idb'
import { flushPromises } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { addressOf, listGear } from '@iron-hush/core/contract'
import { type Gear, known } from '@iron-hush/core/model'
import { useGear } from '../state/gear'
import { sceneId, Server } from '../tests/server'
import { useOutbox } from './outbox'

let server: Server
/** Lists that the server has answered and the network holds back, the first asked first. */
let onTheWay: (() => void)[]
let isSlow: boolean

const slowly = async (...[address, init]: Parameters<Server['answer']>): Promise<Response> => {
  const answer = await server.answer(address, init)
  const isList = (init?.method ?? 'GET') === 'GET' && address.startsWith(addressOf(listGear))
  if (isSlow && isList) await new Promise<void>((arrive) => onTheWay.push(arrive))
  return answer
}

beforeEach(async () => {
  isSlow = false
  await deleteDB('iron-hush')
  setActivePinia(createPinia())
  server = new Server()
  onTheWay = []
  vi.stubGlobal('fetch', slowly)
})

// the database of a page that still writes is not made again for the next
afterEach(async () => {
  await delivered()
  await useOutbox().storage.settled()
})

async function opened() {
  await useOutbox().takeOver()
  const shelf = useGear()
  await shelf.load()
  isSlow = true
  return shelf
}
const delivered = async () => {
  await flushPromises()
  await vi.waitFor(() => expect(useOutbox().count).toBe(0), { timeout: 10_000 })
}
async function asked(lists: number): Promise<void> {
  await vi.waitFor(() => expect(onTheWay).toHaveLength(lists), { timeout: 10_000 })
}
const own = (): Gear => ({
  ...known(useGear().of('mini-pad-25'), 'the pad'),
  id: 'own-thing',
  name: 'own thing',
})

describe('a list that is on its way from the server', () => {
  it('does not take from sight what was added and arrived there meanwhile', async () => {
    const shelf = await opened()
    const loading = shelf.load()
    await asked(1)
    shelf.add(own(), 'adding')
    await delivered()
    onTheWay[0]!()
    await loading
    expect(server.shelf.has('own-thing')).toBe(true)
    expect(shelf.of('own-thing')?.name).toBe('own thing')
  })

  it('nor what waited when it was asked for', async () => {
    const shelf = await opened()
    server.away = true
    shelf.add(own(), 'adding')
    await flushPromises()
    server.away = false
    const loading = shelf.load()
    await asked(1)
    useOutbox().retry()
    await delivered()
    onTheWay[0]!()
    await loading
    expect(shelf.of('own-thing')?.name).toBe('own thing')
  })

  it('does not bring back what was deleted or changed meanwhile', async () => {
    const shelf = await opened()
    shelf.add(own(), 'adding')
    shelf.add({ ...own(), id: 'another', name: 'another' }, 'adding')
    await delivered()
    const loading = shelf.load()
    await asked(1)
    shelf.remove(own())
    shelf.change({ ...own(), id: 'another', name: 'renamed' }, 'renaming')
    await delivered()
    onTheWay[0]!()
    await loading
    expect(shelf.of('own-thing')).toBeUndefined()
    expect(shelf.of('another')?.name).toBe('renamed')
    // and the next change of it goes on from the revision that the server has
    shelf.change({ ...own(), id: 'another', name: 'once more' }, 'renaming')
    await delivered()
    expect(server.shelf.get('another')?.content.name).toBe('once more')
  })

  it('does not undo a later list that came before it', async () => {
    const shelf = await opened()
    const earlier = shelf.load()
    await asked(1)
    server.shelf.set('own-thing', { revision: 1, content: own() })
    const later = shelf.load()
    await asked(2)
    onTheWay[1]!()
    await later
    onTheWay[0]!()
    await earlier
    expect(shelf.of('own-thing')?.name).toBe('own thing')
  })
})

describe('a shelf of which what a scene uses was read first', () => {
  const early = async () => {
    await useOutbox().takeOver()
    const shelf = useGear()
    isSlow = true
    const loading = shelf.loadGently()
    await asked(1)
    await shelf.loadOfScene(sceneId)
    return { shelf, loading }
  }
  it('has that, and the rest when it comes, with the same things', async () => {
    const { shelf, loading } = await early()
    const used = new Set(server.scene.patch.boxes.map(({ gear }) => gear))
    expect(shelf.all.length).toBeLessThan(server.shelf.size)
    for (const id of used) expect(shelf.of(id)?.id).toBe(id)
    const before = known(shelf.of([...used][0]!), 'one that is used')
    const whole = vi.fn<() => void>()
    shelf.whole(whole)
    await flushPromises()
    expect(whole).not.toHaveBeenCalled()
    onTheWay[0]!()
    await loading
    await flushPromises()
    expect(whole).toHaveBeenCalledOnce()
    expect(shelf.all).toHaveLength(server.shelf.size)
    expect(shelf.of(before.id)).toBe(before)
    // from now on at once
    shelf.whole(whole)
    expect(whole).toHaveBeenCalledTimes(2)
  })
  it('sends a change of what it has, and keeps it when the rest comes', async () => {
    const { shelf, loading } = await early()
    const thing = known(shelf.of(server.scene.patch.boxes[0]!.gear), 'one that is used')
    shelf.change({ ...thing, owned: thing.owned + 1 }, 'owning one more')
    expect(shelf.of(thing.id)?.owned).toBe(thing.owned + 1)
    onTheWay[0]!()
    await loading
    await delivered()
    expect(shelf.of(thing.id)?.owned).toBe(thing.owned + 1)
    expect(server.shelf.get(thing.id)?.content.owned).toBe(thing.owned + 1)
  })
  it('is not made less by what a scene uses once it is whole', async () => {
    const { shelf, loading } = await early()
    onTheWay[0]!()
    await loading
    await shelf.loadOfScene(sceneId)
    expect(shelf.all).toHaveLength(server.shelf.size)
  })
})
