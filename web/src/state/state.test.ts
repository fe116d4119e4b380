import { deleteDB } from 'idb'
import { IDBObjectStore } from 'fake-indexeddb'
import { flushPromises } from '@vue/test-utils'
import { createPinia, setActivePinia, storeToRefs } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { reactive, ref, shallowRef } from 'vue'
import type { SceneDocument } from '@iron-hush/core/contract'
import { type LineUpReading, partId, type Patch, withSource, type Take } from '@iron-hush/core/model'
import { Locks } from '../tests/locks'
import { Server, sceneId, shootId } from '../tests/server'
import { placeOfRoute } from '../frame/history-place'
import { useGear } from './gear'
import { historyPlaces, useHistory } from './history'
import { distance } from './lengths'
import { useNotices } from './notices'
import { useScene } from './scene'
import { useSceneConflict } from './scene-conflict'
import { useShoots } from './shoots'
import { useTakeParts } from './take-parts'
import { useTakes } from './takes'
import { useOutbox } from '../sync/outbox'
import { useSetAside } from '../sync/set-aside'
import { Storage } from '../sync/storage'

vi.mock('vue-router', () => ({
  useRouter: () => ({ currentRoute: { value: { name: 'levels', params: {} } }, push: vi.fn() }),
}))

let server: Server
const gainOf = (patch: Patch | undefined, control = 'gain-1') =>
  patch?.boxes.find(({ id }) => id === 'recorder')?.settings[control]
const gain = (position: number) => [
  { kind: 'set control' as const, part: 'recorder', control: 'gain-1', position },
]

/** What the browser's storage holds, read as a fresh page reads it. */
async function kept() {
  await useOutbox().storage.settled()
  return (await new Storage(() => undefined).parcels()).parcels
}

/** Until the server has answered everything, unless it is away. However slow the machine, the rest has happened then. */
async function settle() {
  await flushPromises()
  await vi.waitFor(() => expect(server.away || useOutbox().count === 0).toBe(true), { timeout: 10_000 })
  await flushPromises()
}

async function opened() {
  await useOutbox().takeOver()
  await useGear().load()
  const scene = useScene()
  await useShoots().load()
  scene.carry()
  await scene.open(sceneId)
  await useHistory().go(historyPlaces.scene(sceneId))
  await settle()
  return scene
}

/** What pages have set going. A tab that a test closes lives on in this process, and would reach the next test's server. */
const timers: ReturnType<typeof setTimeout>[] = []

beforeEach(async () => {
  const { setTimeout: real } = globalThis
  vi.spyOn(globalThis, 'setTimeout').mockImplementation(((...args: Parameters<typeof real>) => {
    const timer = real(...args)
    timers.push(timer)
    return timer
  }) as typeof real)
  localStorage.clear()
  vi.useRealTimers()
  await deleteDB('iron-hush')
  setActivePinia(createPinia())
  server = new Server()
  vi.stubGlobal('fetch', server.answer)
})

afterEach(async () => {
  vi.useRealTimers()
  vi.restoreAllMocks()
  // a page that goes on trying would reach the server of the next test
  server.away = false
  const outbox = useOutbox()
  outbox.flush()
  outbox.retry()
  await vi.waitFor(() => expect(outbox.count).toBe(0), { timeout: 10_000 })
  await outbox.storage.settled()
  timers.splice(0).forEach(clearTimeout)
})

describe('a scene', () => {
  it('changes here at once and on the server in a moment, and undo goes both ways', async () => {
    const scene = await opened()
    expect(scene.change(gain(50), 'gain')).toBe(true)
    expect(gainOf(scene.patch)).toBe(50)
    await settle()
    expect(gainOf(server.scene.patch)).toBe(50)
    const history = useHistory()
    history.undo()
    await settle()
    expect(gainOf(scene.patch)).toBe(34)
    expect(gainOf(server.scene.patch)).toBe(34)
    history.redo()
    await settle()
    expect(gainOf(server.scene.patch)).toBe(50)
  })
  it('is not undone before it is there, and the deed stays to be undone', async () => {
    const scene = await opened()
    const before = gainOf(scene.patch)
    scene.change(gain(50), 'gain')
    const history = useHistory()
    history.held = true
    history.undo()
    expect([gainOf(scene.patch), history.canUndo]).toEqual([50, 'gain'])
    history.held = false
    history.undo()
    expect(gainOf(scene.patch)).toBe(before)
    // before the router knows its page, undo is of no place: not of the shoots
    expect(placeOfRoute({ name: undefined, params: {} } as never)).toBe('')
    expect(placeOfRoute({ name: 'start', params: {} } as never)).toBe(historyPlaces.shoots)
    await settle()
  })
  it('holds plain data, whatever a form hands over: workers take nothing else', async () => {
    const scene = await opened()
    const moved = ref(['recorder.1'])
    const reading: LineUpReading = {
      id: shootId,
      at: '2026-11-30T09:00:00.000Z',
      step: 'scratch',
      basis: 'chain',
      result: { kind: 'channels', moved: moved.value },
      gear: {},
      settings: {},
      playedDbfs: null,
    }
    expect(() => structuredClone(reading)).toThrow(/cloned/)
    expect(scene.change([{ kind: 'keep reading', id: shootId, reading }], 'a reading')).toBe(true)
    expect(structuredClone(scene.patch!.lineUp)).toHaveLength(1)
    const gear = useGear()
    const thing = { ...gear.all[0]!, id: 'own', ports: reactive(gear.all[0]!.ports) }
    gear.add(thing, 'adding')
    expect(structuredClone(gear.of('own'))).toMatchObject({ id: 'own' })
    await settle()
  })
  it('refuses what cannot be, in a sentence, and stays as it was', async () => {
    const scene = await opened()
    expect(scene.change(gain(500), 'gain')).toBe(false)
    expect(useNotices().list[0]!.text).toMatch(/cannot be set to "500"/)
    expect(gainOf(scene.patch)).toBe(34)
    expect(useOutbox().count).toBe(0)
  })
  it('takes a turn of a knob for one deed and sends its end', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true, toFake: ['setTimeout', 'clearTimeout'] })
    const scene = await opened()
    const posts = () => server.calls.filter((call) => call.startsWith('POST')).length
    for (let position = 35; position <= 45; position++) scene.change(gain(position), 'gain', 'turn')
    expect(posts()).toBe(0)
    await vi.advanceTimersByTimeAsync(1000)
    await settle()
    expect(posts()).toBe(1)
    expect(gainOf(server.scene.patch)).toBe(45)
    useHistory().undo()
    expect(gainOf(scene.patch)).toBe(34)
  })
  it('does not count a field that writes back what it was given', async () => {
    const scene = await opened()
    scene.change([{ kind: 'change plan', to: scene.openPatch.plan }], 'plan')
    expect(useHistory().canUndo).toBeUndefined()
    expect(useOutbox().count).toBe(0)
  })
  it('puts both versions before the person when another window was first: mine on top', async () => {
    const scene = await opened()
    server.elsewhere(60)
    scene.change(gain(50), 'gain')
    await settle()
    expect(scene.conflict?.mine).toEqual(gain(50))
    expect(gainOf(server.scene.patch)).toBe(34)
    scene.keepMine()
    await settle()
    expect(gainOf(server.scene.patch)).toBe(50)
    expect(gainOf(server.scene.patch, 'gain-2')).toBe(60)
  })
  it('or theirs, with mine one undo away', async () => {
    const scene = await opened()
    server.elsewhere(60)
    scene.change(gain(50), 'gain')
    await settle()
    scene.keepTheirs()
    expect(gainOf(scene.patch)).toBe(34)
    expect(gainOf(scene.patch, 'gain-2')).toBe(60)
    useHistory().undo()
    await settle()
    expect(gainOf(server.scene.patch)).toBe(50)
    useHistory().redo()
    await settle()
    expect(gainOf(server.scene.patch)).toBe(34)
  })
  it('gathers everything that waited behind a conflict', async () => {
    const scene = await opened()
    server.elsewhere(60)
    scene.change(gain(50), 'gain')
    scene.change([{ kind: 'note', note: 'closed the window' }], 'note')
    await settle()
    expect(scene.conflict?.mine.map(({ kind }) => kind)).toEqual(['set control', 'note'])
  })
  it('keeps the choice of a scene that is not open until it is', async () => {
    const scene = await opened()
    const [here, elsewhere] = [scene.document!, { ...scene.document!, id: shootId }]
    const document = shallowRef<SceneDocument | undefined>(elsewhere)
    const { conflict, meet } = useSceneConflict(
      { document, shelf: storeToRefs(useGear()).shelf },
      { show: (to) => (document.value = to), perform: () => true },
    )
    meet(here, gain(50))
    expect(conflict.value).toBeUndefined()
    expect(useNotices().list.at(-1)?.text).toContain('was changed in another window too')
    document.value = here
    expect(conflict.value?.mine).toEqual(gain(50))
  })
  it('looks at another window on coming back, when nothing of its own waits', async () => {
    const scene = await opened()
    server.elsewhere(61)
    await scene.refresh()
    expect(gainOf(scene.patch, 'gain-2')).toBe(61)
  })
  it('opens on the run that needs the person most', async () => {
    const scene = await opened()
    expect(scene.run?.id).toBe(scene.findings[0]!.subject.run)
    const first = scene.runs.findIndex(({ id }) => id === scene.run!.id)
    scene.stepRun(1)
    expect(scene.runs.findIndex(({ id }) => id === scene.run!.id)).toBe((first + 1) % scene.runs.length)
  })
})

describe('a source that nothing records', () => {
  it('is reported, and leaves the run that was looked at in sight', async () => {
    const scene = await opened()
    const before = scene.run!.id
    scene.change([{ kind: 'change brief', to: withSource(scene.openPatch.brief, 'line') }], 'a feed')
    expect(scene.findings[0]).toMatchObject({ code: 'unrecorded', severity: 'dead' })
    expect(scene.run!.id).toBe(before)
  })
})

describe('the outbox', () => {
  it('keeps what cannot be sent and sends it when the server is back', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true, toFake: ['setTimeout', 'clearTimeout'] })
    const scene = await opened()
    server.away = true
    scene.change(gain(52), 'gain')
    await settle()
    expect(useOutbox()).toMatchObject({ away: true, count: 1 })
    expect(await kept()).toHaveLength(1)
    server.away = false
    await vi.advanceTimersByTimeAsync(3000)
    await settle()
    expect(useOutbox()).toMatchObject({ away: false, count: 0 })
    expect(gainOf(server.scene.patch)).toBe(52)
    expect(await kept()).toEqual([])
  })
  it('survives the tab: what a closed one left is shown and sent by the next', async () => {
    const scene = await opened()
    server.away = true
    scene.change(gain(53), 'gain')
    await settle()
    await useOutbox().storage.settled()
    setActivePinia(createPinia())
    server.away = false
    const again = await opened()
    expect(gainOf(again.patch)).toBe(53)
    await settle()
    expect(gainOf(server.scene.patch)).toBe(53)
  })
  it('shows and sends once what the server had, where the tab closed before the answer came', async () => {
    const scene = await opened()
    const real = server.answer
    vi.stubGlobal('fetch', async (address: string, init?: { method?: string; body?: string }) => {
      const answer = await real(address, init)
      if (address.endsWith('/edits')) throw new TypeError('answer lost')
      return answer
    })
    const piece = { id: 'pad', gear: 'mini-pad-25', settings: {}, locked: [] }
    scene.change([{ kind: 'insert piece', link: 'camera-feed', at: 1, piece }], 'pad')
    await vi.waitFor(() => expect(server.scene.revision).toBe(2))
    await useOutbox().storage.settled()
    setActivePinia(createPinia())
    vi.stubGlobal('fetch', real)
    const next = await opened()
    await vi.waitFor(() => expect(useOutbox().count).toBe(0))
    const pads = (patch?: Patch) =>
      patch?.links.flatMap(({ pieces }) => pieces).filter(({ id }) => id === 'pad').length
    expect(useOutbox().away).toBe(false)
    expect(useNotices().list).toEqual([])
    expect([pads(next.patch), pads(server.scene.patch), server.scene.revision]).toEqual([1, 1, 2])
    expect(await kept()).toEqual([])
  })
  it('takes over what another tab had not sent as soon as that tab is gone', async () => {
    const locks = new Locks(['iron-hush.tab.other'])
    vi.spyOn(window, 'navigator', 'get').mockReturnValue({ locks } as unknown as Navigator)
    const edit = { do: 'edit' as const, change: shootId, edits: gain(46) }
    const storage = new Storage(() => undefined)
    storage.keep({ id: sceneId, tab: 'other', place: `scene:${sceneId}`, order: 1, errand: edit })
    await storage.settled()
    const scene = await opened()
    expect(gainOf(server.scene.patch)).not.toBe(46)
    locks.release('iron-hush.tab.other')
    await vi.waitFor(() => expect(gainOf(server.scene.patch)).toBe(46))
    await vi.waitFor(async () => expect(await kept()).toEqual([]))
    expect(gainOf(scene.patch)).toBe(46)
  })
  it('is kept before the copy of a long list is written', async () => {
    const storage = new Storage(() => undefined)
    const order: string[] = []
    storage.keepDocuments(
      'gear',
      '',
      Array.from({ length: 500 }, (_, index) => ({ id: `thing-${index}`, revision: 1, content: {} })),
    )
    const copied = storage.document('gear', 'thing-1').then(() => order.push('list'))
    storage.keep({
      id: sceneId,
      tab: 'other',
      place: `scene:${sceneId}`,
      order: 1,
      errand: { do: 'edit', change: shootId, edits: gain(46) },
    })
    const keeping = storage.parcels().then(({ parcels }) => order.push(`${parcels.length} parcel`))
    await Promise.all([copied, keeping])
    expect(order).toEqual(['1 parcel', 'list'])
  })
  it('holds a turn from its first step on, before anything is sent', async () => {
    const scene = await opened()
    server.away = true
    scene.change(gain(40), 'gain', 'turn')
    scene.change(gain(41), 'gain', 'turn')
    expect((await kept()).map(({ errand }) => errand.do === 'edit' && errand.edits)).toEqual([gain(41)])
  })
  it('tells of a full storage once, and the server gets every change all the same', async () => {
    const scene = await opened()
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError')
    })
    scene.change(gain(50), 'gain')
    scene.change([{ kind: 'note', note: 'closed the window' }], 'note')
    await useOutbox().storage.settled()
    await settle()
    expect(put).toHaveBeenCalled()
    put.mockRestore()
    expect(useNotices().list.map(({ text }) => text.slice(0, 45))).toEqual([
      'This browser cannot store anything any more (',
    ])
    expect(gainOf(server.scene.patch)).toBe(50)
    expect(server.scene.patch.note).toBe('closed the window')
  })
  it('takes over what the release before left', async () => {
    const change = { change: shootId, edits: gain(47) }
    const parcel = { id: sceneId, tab: 'gone', place: `scene:${sceneId}`, content: change }
    localStorage.setItem('iron-hush.outbox', JSON.stringify([parcel, { odd: true }]))
    const scene = await opened()
    expect(gainOf(scene.patch)).toBe(47)
    await settle()
    expect(gainOf(server.scene.patch)).toBe(47)
    // what cannot be read stays where it was
    expect(localStorage.getItem('iron-hush.outbox')).toBe('[{"odd":true}]')
  })
  it('sends a thing before the scene that uses it', async () => {
    const scene = await opened()
    const thing = { ...useGear().of('mini-pad-25')!, id: 'my-pad', name: 'My pad' }
    let late: (() => void) | undefined
    const real = server.answer
    vi.stubGlobal('fetch', async (address: string, init?: { method?: string; body?: string }) => {
      if (address === '/api/gear/my-pad') await new Promise<void>((resolve) => (late = resolve))
      return real(address, init)
    })
    useGear().add(thing, 'a pad')
    const piece = { id: 'pad', gear: 'my-pad', settings: {}, locked: [] }
    scene.change([{ kind: 'insert piece', link: 'camera-feed', at: 1, piece }], 'pad')
    await vi.waitFor(() => expect(late).toBeDefined())
    await flushPromises()
    expect(server.calls.some((call) => call.endsWith('/edits'))).toBe(false)
    late!()
    await vi.waitFor(() =>
      expect(server.scene.patch.links.some(({ pieces }) => pieces.some(({ id }) => id === 'pad'))).toBe(true),
    )
    await vi.waitFor(() => expect(useOutbox().count).toBe(0))
  })
  it('opens what was open while the server is away, with what waits for it', async () => {
    const scene = await opened()
    server.away = true
    scene.change(gain(55), 'gain')
    await useOutbox().storage.settled()
    setActivePinia(createPinia())
    await useOutbox().takeOver()
    await useGear().load()
    const again = useScene()
    await useShoots().load()
    again.carry()
    await again.open(sceneId)
    expect(again.shoots[0]!.scenes[0]!.id).toBe(sceneId)
    expect(gainOf(again.patch)).toBe(55)
    expect(useGear().all).toHaveLength(server.shelf.size)
  })
  it('is not hurt by a retry that had arrived', async () => {
    const scene = await opened()
    const real = server.answer
    let lost = false
    vi.stubGlobal('fetch', async (address: string, init?: { method?: string; body?: string }) => {
      const answer = await real(address, init)
      if (!lost && address.endsWith('/edits')) {
        lost = true
        throw new TypeError('answer lost')
      }
      return answer
    })
    vi.useFakeTimers({ shouldAdvanceTime: true, toFake: ['setTimeout', 'clearTimeout'] })
    scene.change(gain(54), 'gain')
    await flushPromises()
    await vi.advanceTimersByTimeAsync(3000)
    await settle()
    expect(server.scene.revision).toBe(2)
    expect(useOutbox().count).toBe(0)
    expect(scene.conflict).toBeUndefined()
  })
})

describe('undo', () => {
  it('outlives the page, and goes on where it was', async () => {
    const scene = await opened()
    scene.change(gain(50), 'gain')
    scene.change([{ kind: 'note', note: 'closed the window' }], 'note')
    useHistory().undo()
    await settle()
    await useOutbox().storage.settled()
    setActivePinia(createPinia())
    const next = await opened()
    expect([useHistory().canUndo, useHistory().canRedo]).toEqual(['gain', 'note'])
    useHistory().undo()
    expect(gainOf(next.patch)).toBe(34)
    useHistory().redo()
    useHistory().redo()
    await settle()
    expect([gainOf(server.scene.patch), server.scene.patch.note]).toEqual([50, 'closed the window'])
  })
  it('is known of shoots too after the page was left', async () => {
    const asked = (request: 'createScene' | 'deleteScene', body?: unknown) =>
      ({ do: 'ask', request, id: sceneId, body }) as const
    const deed = { name: 'deleting', redo: [asked('deleteScene')], undo: [asked('createScene', {})] }
    await opened()
    useHistory().done(historyPlaces.shoots, deed)
    await useOutbox().storage.settled()
    setActivePinia(createPinia())
    await useHistory().go(historyPlaces.shoots)
    expect(useHistory().canUndo).toBe('deleting')
  })
  it('takes back at each place what was done there: on Roll no knob turns', async () => {
    const scene = await opened()
    const history = useHistory()
    const takes = useTakes()
    scene.change(gain(50), 'gain')
    await history.go(historyPlaces.takes(sceneId))
    expect(history.canUndo).toBeUndefined()
    takes.start()
    expect(history.canUndo).toBe('starting take 1')
    history.undo()
    history.undo()
    expect(takes.list).toEqual([])
    expect(gainOf(scene.patch)).toBe(50)
    await history.go(historyPlaces.scene(sceneId))
    history.undo()
    expect(gainOf(scene.patch)).toBe(34)
  })
  it('sets aside what the server refuses for good or fails at three times, and sends the rest', async () => {
    const scene = await opened()
    const aside = useSetAside()
    const real = server.answer
    const answering = (status: number, detail: string) =>
      vi.stubGlobal('fetch', (address: string, init?: { method?: string; body?: string }) =>
        address.endsWith('/edits')
          ? Promise.resolve(Response.json({ type: 'about:blank', title: 'No', status, detail }, { status }))
          : real(address, init),
      )
    answering(422, 'This cannot be.')
    scene.change(gain(50), 'a refused one')
    scene.flush()
    await vi.waitFor(() => expect(aside.list.map(({ sentence }) => sentence)).toEqual(['This cannot be.']))
    answering(500, 'The server failed.')
    scene.change(gain(52), 'one at which the server fails')
    scene.flush()
    await vi.waitFor(() => expect(aside.list).toHaveLength(2), { timeout: 15_000 })
    vi.stubGlobal('fetch', real)
    scene.change(gain(54), 'a good one')
    scene.flush()
    await vi.waitFor(() => expect(gainOf(server.scene.patch)).toBe(54))
    // they are still there after a reload, until one is dropped
    await useOutbox().storage.settled()
    setActivePinia(createPinia())
    const again = useSetAside()
    await again.ready
    expect(again.list).toHaveLength(2)
    again.drop(again.list[0]!)
    expect(again.list).toHaveLength(1)
  })
  it('keeps what can be undone when a change is refused', async () => {
    const scene = await opened()
    scene.change(gain(50), 'gain')
    await settle()
    const real = server.answer
    vi.stubGlobal('fetch', (address: string, init?: { method?: string; body?: string }) =>
      address.endsWith('/edits')
        ? Promise.resolve(
            Response.json({ type: 'about:blank', title: 'No', status: 422, detail: 'No.' }, { status: 422 }),
          )
        : real(address, init),
    )
    scene.change(gain(51), 'a refused one')
    await settle()
    expect(gainOf(scene.patch)).toBe(50)
    vi.stubGlobal('fetch', real)
    useHistory().undo()
    useHistory().undo()
    await settle()
    expect(gainOf(server.scene.patch)).toBe(34)
  })
})

describe('takes', () => {
  it('count up, carry marks, and can be undone', async () => {
    await opened()
    const takes = useTakes()
    await settle()
    takes.mark('hum', '')
    expect(takes.list).toHaveLength(0)
    takes.start()
    takes.start()
    expect(takes.list).toHaveLength(1)
    takes.mark('hum', 'camera.left')
    takes.mark('word', '', 'door')
    await useHistory().go(historyPlaces.takes(sceneId))
    useHistory().undo()
    expect(takes.rolling!.marks.map(({ kind }) => kind)).toEqual(['hum'])
    takes.end()
    takes.start()
    expect(takes.list.map(({ number }) => number)).toEqual([1, 2])
    useHistory().undo()
    await settle()
    expect(takes.list).toHaveLength(1)
    expect([...server.takes.values()][0]!.content.marks).toHaveLength(1)
  })
  it('keep the settings they were made with; these are put back, and that is undone', async () => {
    const scene = await opened()
    const takes = useTakes()
    const { changedBetween, changedSince, setAsIn } = useTakeParts()
    await settle()
    takes.start()
    takes.end()
    scene.change(gain(50), 'gain')
    takes.start()
    const [first, second] = takes.list as [Take, Take]
    const moved = ['Gain 1 of Recorder from 34\u00A0dB to 50\u00A0dB']
    expect(changedBetween(first, second)).toEqual(moved)
    expect(changedSince(first)).toEqual(moved)
    expect(changedSince(second)).toEqual([])
    setAsIn(first)
    expect(gainOf(scene.patch)).toBe(34)
    await useHistory().go(historyPlaces.takes(sceneId))
    useHistory().undo()
    expect(gainOf(scene.patch)).toBe(50)
    await settle()
    expect(
      [...server.takes.values()][0]!.content.parts.find(({ id }) => id === 'recorder')?.settings['gain-1'],
    ).toBe(34)
  })
  it('keep the marks of both when another window marked too', async () => {
    await opened()
    const takes = useTakes()
    await settle()
    takes.start()
    await settle()
    const [stored] = [...server.takes.values()]
    const theirs = { id: shootId, kind: 'wind' as const, atS: 1, channel: '', note: '' }
    server.takes.set(stored!.content.id, { revision: 2, content: { ...stored!.content, marks: [theirs] } })
    takes.mark('hum', '')
    await settle()
    const kinds = [...server.takes.values()][0]!.content.marks.map(({ kind }) => kind)
    expect(kinds.sort()).toEqual(['hum', 'wind'])
    expect(useNotices().list.at(-1)!.text).toMatch(/marks of both are kept/)
  })
  it('keep every mark that was made while the server was away and another window went on with the take', async () => {
    await opened()
    const takes = useTakes()
    await settle()
    takes.start()
    await settle()
    const [stored] = [...server.takes.values()]
    server.away = true
    takes.mark('hum', '')
    takes.mark('word', '', 'one')
    takes.mark('word', '', 'two')
    await settle()
    const marks = [{ id: shootId, kind: 'wind' as const, atS: 1, channel: '', note: '' }]
    const endedAt = new Date().toISOString()
    server.takes.set(stored!.content.id, { revision: 2, content: { ...stored!.content, marks, endedAt } })
    server.away = false
    useOutbox().retry()
    await vi.waitFor(() => expect(useOutbox().count).toBe(0))
    const { content } = [...server.takes.values()][0]!
    expect(content.marks.map(({ kind, note }) => kind + note).sort()).toEqual([
      'hum',
      'wind',
      'wordone',
      'wordtwo',
    ])
    expect(content.endedAt).toBe(endedAt)
  })
})

describe('a take that another device went on with', () => {
  it('keeps what was done on it here, also where it was ended here and another begun', async () => {
    await opened()
    const takes = useTakes()
    await settle()
    takes.start()
    await settle()
    const [stored] = [...server.takes.values()]
    server.away = true
    takes.mark('word', '', 'one')
    takes.mark('word', '', 'two')
    takes.end()
    takes.start()
    takes.mark('word', '', 'of the next')
    await settle()
    const marks = [{ id: shootId, kind: 'wind' as const, atS: 1, channel: '', note: '' }]
    server.takes.set(stored!.content.id, { revision: 2, content: { ...stored!.content, marks } })
    server.away = false
    useOutbox().retry()
    await vi.waitFor(() => expect(useOutbox().count).toBe(0))
    const all = [...server.takes.values()].map(({ content }) => content)
    const notes = all.map((take) => take.marks.map(({ note }) => note).sort())
    expect(notes).toEqual([['', 'one', 'two'], ['of the next']])
    expect(all[0]!.endedAt).not.toBe(null)
    expect(all.map(({ number }) => number)).toEqual([1, 2])
  })
})

describe('takes of two windows', () => {
  const theirs = (more: object) => ({
    id: shootId,
    scene: sceneId,
    number: 1,
    startedAt: new Date(Date.now() - 10_000).toISOString(),
    endedAt: null,
    verdict: 'open' as const,
    note: '',
    marks: [],
    parts: [],
    ...more,
  })
  /** Rolls here, while the page does not know yet what another window has done. */
  async function rollsHere(stored: ReturnType<typeof theirs>) {
    await opened()
    const takes = useTakes()
    await settle()
    server.takes.set(shootId, { revision: 1, content: stored })
    server.away = true
    takes.start()
    takes.mark('hum', '')
    await settle()
    return takes
  }
  async function back() {
    await settle()
    server.away = false
    useOutbox().retry()
    await vi.waitFor(() => expect(useOutbox().count).toBe(0))
  }
  it('never both roll: marks go to the take that was first, at their moment', async () => {
    const takes = await rollsHere(theirs({}))
    await back()
    expect(takes.list).toHaveLength(1)
    expect(server.takes.size).toBe(1)
    const { marks } = server.takes.get(shootId)!.content
    expect(marks.map(({ kind }) => kind)).toEqual(['hum'])
    expect(marks[0]!.atS).toBeGreaterThan(9.9)
    expect(useNotices().list.map(({ text }) => text)).toContain(
      'Take 1 is already rolling, started in another window; marks go to it.',
    )
  })
  it('keep what was recorded meanwhile, under the next free number', async () => {
    const takes = await rollsHere(theirs({ endedAt: new Date().toISOString() }))
    takes.end()
    await back()
    expect(takes.list.map(({ number }) => number)).toEqual([1, 2])
    const mine = [...server.takes.values()].find(({ content }) => content.id !== shootId)!
    expect(mine.content).toMatchObject({ number: 2, marks: [{ kind: 'hum' }] })
  })
  it('are corrected, noted and deleted, and a number stands once', async () => {
    await opened()
    const takes = useTakes()
    await settle()
    for (let count = 0; count < 2; count++) {
      takes.start()
      takes.end()
    }
    const [first] = takes.list
    expect(takes.numberTaken(first!, 2)).toBe('There is a take 2 already.')
    expect(takes.numberTaken(first!, 5)).toBeUndefined()
    takes.change(first!, { number: 5, note: 'by the door' }, 'the number')
    takes.remove(takes.list.find(({ number }) => number === 2)!)
    await vi.waitFor(() => expect(useOutbox().count).toBe(0))
    expect([...server.takes.values()].map(({ content: { number, note } }) => [number, note])).toEqual([
      [5, 'by the door'],
    ])
    await useHistory().go(historyPlaces.takes(sceneId))
    useHistory().undo()
    await settle()
    expect(takes.list.map(({ number }) => number)).toEqual([2, 5])
  })
})

describe('small things', () => {
  it('says distances in both measures', () => {
    expect(distance(0.45, false)).toBe('45 cm')
    expect(distance(2.4, false)).toBe('2.4 m')
    expect(distance(0.2, true)).toBe('8 in')
    expect(distance(2.4, true)).toBe('7 ft 10 in')
  })
  it('names parts after what they are', () => {
    expect(partId('pad', [])).toBe('pad')
    expect(partId('pad', ['pad', 'pad-2'])).toBe('pad-3')
    expect(partId('Odd Name', [])).toMatch(/^[a-z0-9-]+$/)
  })
})

describe('things of one\u2019s own', () => {
  const copyOf = (id: string) => ({ ...useGear().of(id)!, id: `my-${id}`, name: `My ${id}` })
  const onServer = (id: string) => server.shelf.get(id)

  it('are added, changed and taken off, each undone and redone, and the server follows', async () => {
    await opened()
    const gear = useGear()
    const history = useHistory()
    await history.go(historyPlaces.gear)
    gear.add(copyOf('mini-pad-25'), 'copying')
    await settle()
    expect(onServer('my-mini-pad-25')).toMatchObject({ revision: 1 })
    gear.change({ ...gear.of('my-mini-pad-25')!, owned: 5 }, 'how many')
    await settle()
    expect(onServer('my-mini-pad-25')).toMatchObject({ revision: 2, content: { owned: 5 } })
    history.undo()
    history.undo()
    await settle()
    expect(gear.of('my-mini-pad-25')).toBeUndefined()
    expect(onServer('my-mini-pad-25')).toBeUndefined()
    history.redo()
    await settle()
    expect(onServer('my-mini-pad-25')).toBeDefined()
    gear.remove(gear.of('my-mini-pad-25')!)
    await settle()
    expect(onServer('my-mini-pad-25')).toBeUndefined()
    history.undo()
    await settle()
    expect(gear.of('my-mini-pad-25')).toMatchObject({ name: 'My mini-pad-25' })
  })
  it('that a scene uses stay, with a sentence, and come back to the page', async () => {
    await opened()
    const gear = useGear()
    expect((await gear.usesOf('oriel-short-gun'))[0]).toMatchObject({ as: ['Boom'] })
    gear.remove(gear.of('oriel-short-gun')!)
    await settle()
    expect(
      useNotices()
        .list.map(({ text }) => text)
        .join(),
    ).toMatch(/It is used in The founder at the bench/)
    expect(gear.of('oriel-short-gun')).toBeDefined()
  })
  it('added while the server is away arrive when it is back, and are there after a reload', async () => {
    await opened()
    const gear = useGear()
    server.away = true
    gear.add(copyOf('mini-pad-25'), 'copying')
    await settle()
    expect(useOutbox().count).toBe(1)
    expect(
      useOutbox()
        .waitingOf('gear')
        .map(({ place }) => place),
    ).toEqual(['gear:my-mini-pad-25'])
    server.away = false
    await useOutbox().storage.settled()
    // a fresh page takes over what waits
    setActivePinia(createPinia())
    await useOutbox().takeOver()
    await useGear().load()
    expect(useGear().of('my-mini-pad-25')).toBeDefined()
    await settle()
    expect(onServer('my-mini-pad-25')).toBeDefined()
  })
  it('taken in from a file come together, and undo puts the shelf back as it was', async () => {
    await opened()
    const gear = useGear()
    const changed = { ...gear.of('mini-pad-40')!, owned: 7 }
    await gear.take([copyOf('mini-pad-25'), changed])
    expect(gear.of('mini-pad-40')!.owned).toBe(7)
    expect(gear.of('my-mini-pad-25')).toBeDefined()
    await useHistory().go(historyPlaces.gear)
    useHistory().undo()
    await settle()
    expect(gear.of('my-mini-pad-25')).toBeUndefined()
    expect(onServer('mini-pad-40')!.content.owned).toBe(0)
  })
  it('that are written back as they were are no deed', async () => {
    await opened()
    const gear = useGear()
    gear.change({ ...gear.of('mini-pad-40')! }, 'nothing')
    expect(useHistory().canUndo).toBeUndefined()
    expect(server.calls.filter((call) => call.startsWith('PUT'))).toEqual([])
  })
})
