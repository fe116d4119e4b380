import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { useOutbox } from '../sync/outbox'
import { type Act, type Deed, DeedLine } from './deed'

type DocumentActs = { put: (content: unknown) => void; drop: (id: string) => void }

interface Performers {
  edit: (act: Extract<Act, { do: 'edit' }>) => unknown
  ask: (act: Extract<Act, { do: 'ask' }>) => unknown
  take: DocumentActs
  proof: DocumentActs
  gear: DocumentActs
}

const mergeMs = 1000
const most = 200
/** Largest stored history of a scene, characters of JSON: it is rewritten with every action, and measurements are large. */
const mostLetters = 1_000_000
const empty: DeedLine = { past: [], future: [] }

/** Where deeds belong. Undo takes back what was done at the place that is shown, and nothing that is out of sight. */
export const historyPlaces = {
  scene: (id: string) => `scene:${id}`,
  takes: (scene: string) => `takes:${scene}`,
  proofs: (scene: string) => `proofs:${scene}`,
  gear: 'gear',
  shoots: 'shoots',
}

/** Undo and redo, the same everywhere; kept in the browser's storage, a line for each place. */
export const useHistory = defineStore('history', () => {
  const place = ref('')
  /** While what undo would change is not there yet. */
  const held = ref(false)
  const { lineAt, keep, read } = useLines()
  const { carry, act } = usePerformers()
  let last = { place: '', at: 0 }

  const line = computed(() => lineAt(place.value))
  const canUndo = computed(() => line.value.past.at(-1)?.name)
  const canRedo = computed(() => line.value.future.at(-1)?.name)

  /** Switches undo and redo to this place. */
  async function go(to: string): Promise<void> {
    place.value = to
    if (to) await read(to)
  }

  /** Notes what was done at a place. */
  function done(where: string, deed: Deed): void {
    const now = performance.now()
    const { past } = lineAt(where)
    const before = past.at(-1)
    const together =
      deed.merge && before?.merge === deed.merge && last.place === where && now - last.at < mergeMs
    const latest = together ? { ...deed, undo: before.undo } : deed
    keep(where, { past: newest([...(together ? past.slice(0, -1) : past), latest]), future: [] })
    last = { place: where, at: now }
  }
  /** Does it, and notes it. */
  function perform(where: string, deed: Deed): void {
    deed.redo.forEach(act)
    done(where, deed)
  }
  function undo(): void {
    const { past, future } = line.value
    const deed = past.at(-1)
    if (!deed || held.value) return
    keep(place.value, { past: past.slice(0, -1), future: [...future, deed] })
    deed.undo.forEach(act)
  }
  function redo(): void {
    const { past, future } = line.value
    const deed = future.at(-1)
    if (!deed || held.value) return
    keep(place.value, { past: [...past, deed], future: future.slice(0, -1) })
    deed.redo.forEach(act)
  }

  return { place, held, canUndo, canRedo, go, done, perform, undo, redo, carry }
})

/** Done and undone actions of each place, as the browser stores them. */
function useLines() {
  const { storage } = useOutbox()
  const lines = shallowRef<ReadonlyMap<string, DeedLine>>(new Map())
  const begun = new Set<string>()

  const lineAt = (place: string) => lines.value.get(place) ?? empty
  function show(place: string, line: DeedLine): void {
    lines.value = new Map([...lines.value, [place, line]])
  }
  function keep(place: string, line: DeedLine): void {
    show(place, line)
    storage.keepHistory(place, line)
  }
  /** Reads what is kept of a place, once. */
  async function read(place: string): Promise<void> {
    if (begun.has(place)) return
    begun.add(place)
    const kept = DeedLine.safeParse(await storage.history(place))
    if (!kept.success) return
    // actions done while it was being read come after it
    const { past, future } = lineAt(place)
    show(place, {
      past: [...kept.data.past, ...past],
      future: past.length ? [] : [...kept.data.future, ...future],
    })
  }
  return { lineAt, keep, read }
}

const sizes = new WeakMap<Deed, number>()
function sizeOf(deed: Deed): number {
  const size = sizes.get(deed) ?? JSON.stringify(deed).length
  sizes.set(deed, size)
  return size
}
/** As many of the newest deeds as are kept; the last one always. */
function newest(deeds: readonly Deed[]): Deed[] {
  let [letters, from] = [0, deeds.length]
  while (from > 0 && deeds.length - from < most) {
    letters += sizeOf(deeds[from - 1]!)
    if (letters > mostLetters && from < deeds.length) break
    from--
  }
  return deeds.slice(from)
}

/** Who does the acts of each kind. */
function usePerformers() {
  const performers: Partial<Performers> = {}
  /** Says who does the acts of a kind. */
  function carry<K extends keyof Performers>(kind: K, performer: Performers[K]): void {
    performers[kind] = performer
  }
  function act(one: Act): void {
    if (one.do === 'edit') performers.edit?.(one)
    else if (one.do === 'ask') performers.ask?.(one)
    else if (one.do === 'put') performers[one.kind]?.put(one.content)
    else performers[one.kind]?.drop(one.id)
  }
  return { carry, act }
}
