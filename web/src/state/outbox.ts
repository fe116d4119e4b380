import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { newId } from './new-id'
import { Refused } from './server'

/** Something on its way to the server. It stays in the browser's own storage until the server has it. */
export interface Parcel {
  id: string
  tab: string
  /** Parcels to one place go one after another. */
  place: string
  content: unknown
}

interface Carrier {
  send: (parcel: Parcel) => Promise<void>
  /** The server said no: for good, so the parcel is taken out. The carrier tells the person. */
  refused: (parcel: Parcel, refusal: Refused) => void
}

const storageKey = 'iron-hush.outbox'
const retryMs = 2500

function stored(): Parcel[] {
  try {
    return JSON.parse(localStorage.getItem(storageKey) ?? '[]') as Parcel[]
  } catch {
    return []
  }
}

/**
 * What is not yet with the server. Every parcel is written to the browser's storage before it is sent and leaves
 * it when the answer is there, so that neither a lost server nor a closed tab loses one. A tab sends its own
 * parcels, and takes over those of tabs that are gone.
 */
export const useOutbox = defineStore('outbox', () => {
  const tab = newId()
  const waiting = ref<Parcel[]>([])
  const away = ref(false)
  const carriers = new Map<string, Carrier>()
  const busy = new Set<string>()
  const count = computed(() => waiting.value.length)
  // held until the tab goes, so that others can see whether it is still there
  void navigator.locks?.request(`iron-hush.tab.${tab}`, () => new Promise<void>(() => undefined))

  const write = (change: (all: Parcel[]) => Parcel[]) =>
    localStorage.setItem(storageKey, JSON.stringify(change(stored())))
  const placeKind = (place: string) => place.split(':')[0]!

  function post(place: string, content: unknown): Parcel {
    const parcel = { id: newId(), tab, place, content }
    write((all) => [...all, parcel])
    waiting.value.push(parcel)
    void push(place)
    return parcel
  }

  function remove(parcel: Parcel): void {
    write((all) => all.filter(({ id }) => id !== parcel.id))
    waiting.value = waiting.value.filter(({ id }) => id !== parcel.id)
  }

  async function push(place: string): Promise<void> {
    const carrier = carriers.get(placeKind(place))
    if (!carrier || busy.has(place)) return
    busy.add(place)
    try {
      for (;;) {
        const parcel = waiting.value.find((each) => each.place === place)
        if (!parcel) return
        try {
          await carrier.send(parcel)
          away.value = false
        } catch (error) {
          if (!(error instanceof Refused)) {
            away.value = true
            setTimeout(() => void push(place), retryMs)
            return
          }
          away.value = false
          carrier.refused(parcel, error)
        }
        remove(parcel)
      }
    } finally {
      busy.delete(place)
    }
  }

  /** Says how parcels to places of a kind (`scene:…`, `take:…`) are sent, and sends what waits. */
  function carry(kind: string, carrier: Carrier): void {
    carriers.set(kind, carrier)
    for (const place of new Set(waiting.value.map((each) => each.place)))
      if (placeKind(place) === kind) void push(place)
  }

  /** Takes over what tabs that are gone have left. Call before anything is loaded. */
  async function adopt(): Promise<void> {
    const held = new Set((await navigator.locks?.query())?.held?.map(({ name }) => name) ?? [])
    const orphans = stored().filter((parcel) => !held.has(`iron-hush.tab.${parcel.tab}`))
    if (orphans.length === 0) return
    const ids = new Set(orphans.map(({ id }) => id))
    write((all) => all.map((parcel) => (ids.has(parcel.id) ? { ...parcel, tab } : parcel)))
    waiting.value.push(...orphans.map((parcel) => ({ ...parcel, tab })))
  }

  const waitingFor = (place: string) => waiting.value.filter((parcel) => parcel.place === place)

  const placesOf = (kind: string) => [
    ...new Set(waiting.value.map(({ place }) => place).filter((place) => placeKind(place) === kind)),
  ]

  return { count, away, post, placesOf, carry, adopt, waitingFor }
})
