import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { z } from 'zod'
import { type Gear, GearDocument, GearUse, shelfOf } from '@iron-hush/core/model'
import { useHistory } from './history'
import { useNotices } from './notices'
import { useOutbox } from './outbox'
import { ask } from './server'

/** What goes to the server of one thing: its latest state, or that it is gone. */
type GearParcel = { gear: Gear } | { gone: string }

/** The shelf. */
export const useGear = defineStore('gear', () => {
  const documents = ref<GearDocument[]>([])
  const outbox = useOutbox()
  const all = computed(() => documents.value.map(({ gear }) => gear))
  const shelf = computed(() => shelfOf(all.value))
  /** Revisions the server has. A thing that it does not have is new there. */
  const revisions = new Map<string, number>()

  async function load(): Promise<void> {
    documents.value = await ask(z.array(GearDocument), 'GET', '/api/gear')
    revisions.clear()
    for (const { gear, revision } of documents.value) revisions.set(gear.id, revision)
    const waiting = new Set(outbox.placesOf('gear'))
    for (const place of waiting)
      for (const parcel of outbox.waitingFor(place)) putOrDrop(parcel.content as GearParcel)
    outbox.carry('gear', {
      async send(parcel) {
        const content = parcel.content as GearParcel
        if ('gone' in content) {
          await ask(z.unknown(), 'DELETE', `/api/gear/${content.gone}`)
          revisions.delete(content.gone)
          return
        }
        const { gear } = content
        const answer = await ask(GearDocument, 'PUT', `/api/gear/${gear.id}`, {
          baseRevision: revisions.get(gear.id) ?? 0,
          gear,
        })
        revisions.set(gear.id, answer.revision)
      },
      refused(_, { problem }) {
        useNotices().say(problem.detail)
        void load()
      },
    })
  }

  function putOrDrop(content: GearParcel): void {
    if ('gone' in content) documents.value = documents.value.filter(({ gear }) => gear.id !== content.gone)
    else if (documents.value.some(({ gear }) => gear.id === content.gear.id))
      documents.value = documents.value.map((each) =>
        each.gear.id === content.gear.id ? { ...each, gear: content.gear } : each,
      )
    else documents.value = [...documents.value, { revision: 1, gear: content.gear }]
  }

  function store(gear: Gear): void {
    putOrDrop({ gear })
    outbox.post(`gear:${gear.id}`, { gear } satisfies GearParcel)
  }
  function drop(id: string): void {
    putOrDrop({ gone: id })
    outbox.post(`gear:${id}`, { gone: id } satisfies GearParcel)
  }
  const of = (id: string) => documents.value.find((each) => each.gear.id === id)?.gear

  /** Changes a thing on the shelf; can be undone. */
  function change(gear: Gear, name: string, merge?: string): void {
    const before = of(gear.id)!
    if (JSON.stringify(before) === JSON.stringify(gear)) return
    useHistory().done({ name, merge, redo: () => store(gear), undo: () => store(before) })
    store(gear)
  }

  /** Puts a new thing on the shelf; can be undone. */
  function add(gear: Gear, name: string): void {
    useHistory().done({ name, redo: () => store(gear), undo: () => drop(gear.id) })
    store(gear)
  }

  const usesOf = (id: string) => ask(z.array(GearUse), 'GET', `/api/gear/${id}/uses`)

  /** Takes a thing off the shelf; can be undone. What a scene uses the server keeps, with a sentence. */
  function remove(gear: Gear): void {
    useHistory().done({
      name: `taking ${gear.name} off the shelf`,
      redo: () => drop(gear.id),
      undo: () => store(gear),
    })
    drop(gear.id)
  }

  /** Puts things from a file on the shelf, all together; can be undone. */
  async function take(gear: readonly Gear[]): Promise<void> {
    const before = gear.map(({ id }) => of(id))
    await ask(z.array(GearDocument), 'POST', '/api/gear/import', { gear })
    await load()
    useHistory().done({
      name: 'taking in a gear file',
      redo: () => gear.forEach(store),
      undo: () => gear.forEach(({ id }, index) => (before[index] ? store(before[index]) : drop(id))),
    })
  }

  return { all, shelf, of, load, change, add, remove, take, usesOf }
})
