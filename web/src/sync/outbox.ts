import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useNotices } from '../state/notices'
import { type Carrier, delivering } from './delivering'
import { newId } from './new-id'
import { type Errand, kindOfPlace, type Parcel } from './parcel'
import { Storage } from './storage'
import { lockOf, takingOver } from './taking-over'
import { waitingParcels } from './waiting'

const retryMs = 2500

/**
 * What is not yet with the server. Every parcel is kept in the browser's storage from the moment it is made until the
 * server has answered it, so that neither a lost server nor a closed tab loses one. A tab sends its own parcels, and
 * takes over those of tabs that are gone. Where storage refuses, the parcels of this page stay in memory and go on being
 * sent.
 */
export const useOutbox = defineStore('outbox', () => {
  const tab = newId()
  const storage = new Storage(onceNotStored())
  const parcels = waitingParcels(tab, storage, (place) => void push(place))
  const { waiting, add, flush, waitingFor, waitingOf, takeBack } = parcels
  const { away, push, retry, carry, adopt } = sending(parcels)
  // held until the tab goes, so that others can see whether it is still there
  void navigator.locks?.request(lockOf(tab), () => new Promise<void>(() => undefined))

  const takeOver = takingOver(tab, storage, (left, late) => {
    waiting.value = [...left, ...waiting.value].sort((one, other) => one.order - other.order)
    if (!late) return
    left.forEach(adopt)
    retry()
  })

  const count = computed(() => waiting.value.length)
  const post = (place: string, errand: Errand, turning = false) => add(place, errand, turning)
  return {
    count,
    away,
    storage,
    post,
    push,
    flush,
    retry,
    carry,
    takeOver,
    takeBack,
    waitingFor,
    waitingOf,
  }
})

/** Sends parcels, one after another to each place, and tries again while the server is away. */
function sending({ waiting, waitingOf, next, remove }: ReturnType<typeof waitingParcels>) {
  const away = ref(false)
  const carriers = new Map<string, Carrier>()
  const busy = new Map<string, Promise<void>>()
  const delivered = delivering()

  /** Sends what waits for a place; resolves when nothing is left that can go, or the server is away. */
  function push(place: string): Promise<void> {
    const underWay = busy.get(place)
    if (underWay) return underWay
    const carrier = carriers.get(kindOfPlace(place))
    if (!carrier || !next(place)) return Promise.resolve()
    const pushing = sendAll(carrier, place)
    busy.set(place, pushing)
    return pushing
  }
  async function sendAll(carrier: Carrier, place: string): Promise<void> {
    try {
      for (let parcel = next(place); parcel; parcel = next(place)) {
        away.value = !(await delivered(carrier, parcel))
        if (away.value) {
          setTimeout(() => void push(place), retryMs)
          return
        }
        remove(parcel)
        const kind = kindOfPlace(place)
        if (kind === 'gear') pushKind('scene')
        if (kind === 'take') pushKind('take')
      }
    } finally {
      busy.delete(place)
    }
  }
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
  /** Shows what was taken over from a tab that is gone. */
  const adopt = (parcel: Parcel) => carriers.get(kindOfPlace(parcel.place))?.adopted(parcel)
  return { away, push, retry, carry, adopt }
}

/** Says once that the browser stores nothing any more. */
function onceNotStored(): () => void {
  const notices = useNotices()
  let said = false
  return () => {
    if (said) return
    said = true
    notices.say(
      'This browser cannot store anything any more (its storage is full or blocked). Your changes are still sent; keep this page open until the server has them.',
    )
  }
}
