import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { useNotices } from '../state/notices'
import { Refused } from './ask'
import { newId } from './new-id'
import { type Errand, joined, kindOfPlace, type Parcel } from './parcel'
import { Storage } from './storage'

interface Carrier {
  send: (parcel: Parcel) => Promise<void>
  /** The server said no: for good, so the parcel is taken out. The carrier tells the person. */
  refused: (parcel: Parcel, refusal: Refused) => void
}

const retryMs = 2500
/** While a control is being turned, this long after its last movement the change is sent. */
const holdMs = 350

/**
 * What is not yet with the server. Every parcel is kept in the browser's storage from the moment it is made until the
 * server has answered it, so that neither a lost server nor a closed tab loses one. A tab sends its own parcels, and
 * takes over those of tabs that are gone. Where storage refuses, the parcels of this page stay in memory and go on being
 * sent.
 */
export const useOutbox = defineStore('outbox', () => {
  const notices = useNotices()
  const tab = newId()
  const waiting = shallowRef<Parcel[]>([])
  const away = ref(false)
  const carriers = new Map<string, Carrier>()
  const busy = new Set<string>()
  /** Parcels that may still grow, with their timers. */
  const held = new Map<string, ReturnType<typeof setTimeout>>()
  const count = computed(() => waiting.value.length)
  let order = Date.now() * 1000
  let saidFull = false
  const storage = new Storage(sayNotStored)
  // held until the tab goes, so that others can see whether it is still there
  void navigator.locks?.request(`iron-hush.tab.${tab}`, () => new Promise<void>(() => undefined))

  function sayNotStored(): void {
    if (saidFull) return
    saidFull = true
    notices.say(
      'This browser keeps nothing any more (its storage is full or closed). Your changes are sent all the same; leave this page open until the server has them.',
    )
  }

  /** Puts an errand on its way. While a hand is still moving (`turning`), errands to one place are joined. */
  function post(place: string, errand: Errand, turning = false): void {
    const last = waiting.value.findLast((each) => each.place === place)
    const together = last && held.has(last.id) ? joined(last.errand, errand) : undefined
    const parcel: Parcel =
      last && together ? { ...last, errand: together } : { id: newId(), tab, place, order: order++, errand }
    waiting.value = [...waiting.value.filter(({ id }) => id !== parcel.id), parcel]
    storage.keep(parcel)
    clearTimeout(held.get(parcel.id))
    held.delete(parcel.id)
    if (turning)
      held.set(
        parcel.id,
        setTimeout(() => release(parcel), holdMs),
      )
    else void push(place)
  }

  function release({ id, place }: Parcel): void {
    clearTimeout(held.get(id))
    held.delete(id)
    void push(place)
  }
  /** Sends at once what waits for a hand to come to rest. */
  const flush = () => waiting.value.filter(({ id }) => held.has(id)).forEach(release)

  function remove(parcel: Parcel): void {
    waiting.value = waiting.value.filter(({ id }) => id !== parcel.id)
    storage.remove(parcel)
    // scenes wait for the things that they may use
    if (kindOfPlace(parcel.place) === 'gear') pushKind('scene')
  }

  function next(place: string): Parcel | undefined {
    const parcel = waiting.value.find((each) => each.place === place)
    if (!parcel || held.has(parcel.id)) return undefined
    const needsGear =
      kindOfPlace(place) === 'scene' &&
      waiting.value.some((each) => kindOfPlace(each.place) === 'gear' && each.order < parcel.order)
    return needsGear ? undefined : parcel
  }

  async function push(place: string): Promise<void> {
    const carrier = carriers.get(kindOfPlace(place))
    if (!carrier || busy.has(place)) return
    busy.add(place)
    try {
      for (let parcel = next(place); parcel; parcel = next(place)) {
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

  const waitingFor = (place: string) => waiting.value.filter((parcel) => parcel.place === place)
  const waitingOf = (kind: string) => waiting.value.filter(({ place }) => kindOfPlace(place) === kind)
  function pushKind(kind: string): void {
    for (const place of new Set(waitingOf(kind).map((each) => each.place))) void push(place)
  }

  /** Tries at once what waits, without a pause: the network may be back. */
  const retry = () => new Set(waiting.value.map(({ place }) => kindOfPlace(place))).forEach(pushKind)

  /** Says how parcels to places of a kind are sent, and sends what waits. */
  function carry(kind: string, carrier: Carrier): void {
    carriers.set(kind, carrier)
    pushKind(kind)
  }

  /** Takes over what tabs that are gone have left. Call before anything is loaded. */
  async function adopt(): Promise<void> {
    const tabs = new Set((await navigator.locks?.query())?.held?.map(({ name }) => name) ?? [])
    const { parcels, unreadable } = await storage.parcels()
    const mine = new Set(waiting.value.map(({ id }) => id))
    const orphans = parcels
      .filter((parcel) => !mine.has(parcel.id) && !tabs.has(`iron-hush.tab.${parcel.tab}`))
      .map((parcel) => ({ ...parcel, tab }))
    orphans.forEach((parcel) => storage.keep(parcel))
    waiting.value = [...orphans, ...waiting.value]
    if (unreadable)
      notices.say(
        `${unreadable} kept ${unreadable === 1 ? 'change' : 'changes'} of another release cannot be read by this one; nothing was thrown away.`,
      )
  }

  return { count, away, storage, post, flush, retry, carry, adopt, waitingFor, waitingOf }
})
