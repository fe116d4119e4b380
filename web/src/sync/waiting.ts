import { shallowRef } from 'vue'
import { newId } from './new-id'
import { type Errand, joined, kindOfPlace, type Parcel } from './parcel'
import type { Storage } from './storage'

/** Delay after the last movement of a control before the change is sent, ms. */
const holdMs = 350

/** A scene may use gear that is new; a take may begin only when the one before has ended. */
const goesAfter: Record<string, string> = { scene: 'gear', take: 'take' }

/** Parcels of this tab that the server does not have yet, in order; what a hand still moves may still grow. */
export function waitingParcels(tab: string, storage: Storage, ready: (place: string) => void) {
  const waiting = shallowRef<Parcel[]>([])
  /** Parcels that may still grow, with their timers. */
  const held = new Map<string, ReturnType<typeof setTimeout>>()
  let order = Date.now() * 1000

  /** While a hand is still moving (`turning`), errands to one place are joined. */
  function add(place: string, errand: Errand, turning: boolean): void {
    const last = waiting.value.findLast((each) => each.place === place)
    const together = last && held.has(last.id) ? joined(last.errand, errand) : undefined
    const parcel: Parcel =
      last && together ? { ...last, errand: together } : { id: newId(), tab, place, order: order++, errand }
    waiting.value = [...waiting.value.filter(({ id }) => id !== parcel.id), parcel]
    storage.keep(parcel)
    letGo(parcel)
    if (turning)
      held.set(
        parcel.id,
        setTimeout(() => release(parcel), holdMs),
      )
    else ready(place)
  }
  function letGo({ id }: Parcel): void {
    clearTimeout(held.get(id))
    held.delete(id)
  }
  function release(parcel: Parcel): void {
    letGo(parcel)
    ready(parcel.place)
  }
  function remove(parcel: Parcel): void {
    waiting.value = waiting.value.filter(({ id }) => id !== parcel.id)
    storage.remove(parcel)
  }

  /** The next parcel to a place. It waits for earlier ones of the kind that it may depend on. */
  function next(place: string): Parcel | undefined {
    const parcel = waiting.value.find((each) => each.place === place)
    if (!parcel || held.has(parcel.id)) return undefined
    const first = goesAfter[kindOfPlace(place)]
    const waits = waiting.value.some(
      (each) => kindOfPlace(each.place) === first && each.place !== place && each.order < parcel.order,
    )
    return waits ? undefined : parcel
  }
  const waitingFor = (place: string) => waiting.value.filter((parcel) => parcel.place === place)
  const waitingOf = (kind: string) => waiting.value.filter(({ place }) => kindOfPlace(place) === kind)
  /**
   * Takes back what waits for a place, and gives the last of it: it was made before an answer was known that changes it.
   * A parcel that is being answered stays.
   */
  function takeBack(place: string, answered?: Parcel): Errand | undefined {
    const back = waitingFor(place).filter(({ id }) => id !== answered?.id)
    back.forEach(remove)
    return back.at(-1)?.errand
  }
  /** Sends at once what waits for a hand to come to rest. */
  const flush = () => waiting.value.filter(({ id }) => held.has(id)).forEach(release)
  return { waiting, add, remove, next, flush, waitingFor, waitingOf, takeBack }
}
