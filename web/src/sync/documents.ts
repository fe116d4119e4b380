import { useDebounceFn } from '@vueuse/core'
import { ref, type Ref, shallowRef } from 'vue'
import type { Stored } from '@iron-hush/core/contract'
import type { Between, Refused } from './ask'
import type { DocumentKind } from './document-kind'
import { gatherMs, useLive } from './live'
import { meeting } from './meeting'
import { useOutbox } from './outbox'
import { idOfPlace, type Parcel, placeOf } from './parcel'
import { isSameList } from './same-list'
import { serverSide } from './server-side'

/** Documents of a kind under one scope, as this page has them: the server's, and what is on its way there. */
export interface Documents<T> {
  list: Ref<T[]>
  /** @param between what is waited for between two pages, where there is better to do */
  load: (scope: string, between?: Between) => Promise<void>
  /** Shows some that were read by themselves, until the list is whole. */
  showSome: (scope: string, stored: readonly Stored<T>[]) => void
  /** Whether the list was read: till then it is empty, or holds some that were read by themselves. */
  isWhole: Ref<boolean>
  put: (content: T) => void
  drop: (id: string) => void
  /** The revision that the server has, as far as is known; 0 for what it never had. */
  revisionOf: (id: string) => number
  /** The same for contents that came out of storage: what does not fit its schema is left alone. */
  acts: { put: (content: unknown) => void; drop: (id: string) => void }
}

export function useDocuments<T extends { id: string }>(kind: DocumentKind<T>): Documents<T> {
  const outbox = useOutbox()
  const list = shallowRef<T[]>([])
  /** Undefined until a list was asked for. */
  const scope = ref<string>()
  const server = serverSide(kind)
  const { revisionOf } = server
  const isWhole = ref(false)

  async function load(of: string, between?: Between): Promise<void> {
    if (scope.value !== of) isWhole.value = false
    scope.value = of
    const stored = await server.read(of, between)
    if (!stored || scope.value !== of) return
    showAll(stored)
    isWhole.value = true
    void carry()
  }
  function showSome(of: string, stored: readonly Stored<T>[]): void {
    if (scope.value === of && isWhole.value) return
    scope.value = of
    stored.forEach(note)
    showAll(stored)
  }
  function showAll(stored: readonly Stored<T>[]): void {
    const shown = outbox.waitingOf(kind.name).reduce(withParcel, asShown(list.value, stored)).sort(kind.order)
    // all that follows from a list is worked out again when it is another
    if (!isSameList(shown, list.value)) list.value = shown
  }
  /** Sends what waits, once it is known what was deleted here. */
  async function carry(): Promise<void> {
    await server.readRemoved()
    outbox.carry(kind.name, { send: server.send, refused, adopted })
  }

  const withParcel = (all: readonly T[], parcel: Parcel): T[] => withErrand(kind, all, parcel, scope.value)
  const show = (theirs: T, inPlaceOf: string) =>
    (list.value = changed(
      kind,
      list.value.filter(({ id }) => id !== inPlaceOf),
      theirs,
    ))
  const note = ({ revision, content }: Stored<T>) => server.note(content.id, revision, content)
  const { put, drop, acts } = writing(kind, list, scope)
  const met = meeting(kind, { list: () => list.value, show, put, note })
  function refused(parcel: Parcel, refusal: Refused): boolean {
    const isMet = met(parcel, refusal)
    if (!isMet && scope.value !== undefined) void load(scope.value).catch(() => undefined)
    return isMet
  }
  function adopted(parcel: Parcel): void {
    list.value = withParcel(list.value, parcel)
  }
  followChanges(kind, { scope, revisionOf, load })
  return { list, load, showSome, isWhole, put, drop, revisionOf, acts }
}

/** Changes by the person: shown at once, and sent to the server. */
function writing<T extends { id: string }>(
  kind: DocumentKind<T>,
  list: Ref<T[]>,
  scope: Ref<string | undefined>,
): Pick<Documents<T>, 'put' | 'drop' | 'acts'> {
  const outbox = useOutbox()
  function put(content: T): void {
    // documents of another scope are stored too
    if (kind.scopeOf(content) === scope.value) list.value = changed(kind, list.value, content)
    outbox.post(placeOf(kind.name, content.id), { do: 'put', content })
  }
  function drop(id: string): void {
    list.value = list.value.filter((each) => each.id !== id)
    outbox.post(placeOf(kind.name, id), { do: 'drop' })
  }
  function putRead(content: unknown): void {
    const read = kind.schema.safeParse(content)
    if (read.success) put(read.data)
  }
  return { put, drop, acts: { put: putRead, drop } }
}

/** The server's documents; unchanged ones stay the same object, so that nothing is redrawn for them. */
function asShown<T extends { id: string }>(before: readonly T[], stored: readonly Stored<T>[]): T[] {
  const shown = new Map(before.map((content) => [content.id, content]))
  return stored.map(({ content }) => {
    const same = shown.get(content.id)
    return same && (same === content || JSON.stringify(same) === JSON.stringify(content)) ? same : content
  })
}

/** A list with one document new or changed. */
const changed = <T extends { id: string }>({ order }: DocumentKind<T>, all: readonly T[], content: T): T[] =>
  [...all.filter(({ id }) => id !== content.id), content].sort(order)

/** A list as it will be when a parcel has arrived. */
function withErrand<T extends { id: string }>(
  kind: DocumentKind<T>,
  all: readonly T[],
  { place, errand }: Parcel,
  scope: string | undefined,
): T[] {
  const gone = idOfPlace(place)
  if (errand.do !== 'put') return all.filter(({ id }) => id !== gone)
  const content = kind.schema.safeParse(errand.content)
  return content.success && kind.scopeOf(content.data) === scope ? changed(kind, all, content.data) : [...all]
}

/** Reads the list again when something in it was changed elsewhere, unless a change of ours is on its way. */
function followChanges<T extends { id: string }>(
  { name }: DocumentKind<T>,
  page: {
    scope: Ref<string | undefined>
    revisionOf: (id: string) => number
    load: (scope: string) => Promise<void>
  },
): void {
  const outbox = useOutbox()
  const read = useDebounceFn(() => {
    const scope = page.scope.value
    if (scope !== undefined && outbox.waitingOf(name).length === 0)
      void page.load(scope).catch(() => undefined)
  }, gatherMs)
  useLive().on((heard) => {
    const news =
      heard === 'missed' ||
      (heard.kind === name &&
        (heard.scene ?? '') === page.scope.value &&
        (heard.revision ?? 0) > page.revisionOf(heard.id))
    if (news) void read()
  })
}
