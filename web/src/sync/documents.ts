import { useDebounceFn } from '@vueuse/core'
import { ref, type Ref, shallowRef } from 'vue'
import { NewRevision, type Stored } from '@iron-hush/core/contract'
import { ask, askAll, type Refused, ServerAway } from './ask'
import type { DocumentKind } from './document-kind'
import { gatherMs, useLive } from './live'
import { useOutbox } from './outbox'
import { meeting } from './meeting'
import { overtaking } from './overtaking'
import { idOfPlace, type Parcel, placeOf } from './parcel'

/** Documents of a kind under one scope, as this page has them: the server's, and what is on its way there. */
export interface Documents<T> {
  list: Ref<T[]>
  load: (scope: string) => Promise<void>
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
  const scope = ref('')
  /** Revisions the server has, also of what was deleted here. What it does not have is new there. */
  const revisions = new Map<string, number>()
  const place = (id: string) => placeOf(kind.name, id)
  const { arrived, listed } = overtaking<T>()
  let lastAsked = 0
  let lastShown = 0

  async function load(of: string): Promise<void> {
    scope.value = of
    const asked = ++lastAsked
    const belongs = (content: T) => kind.scopeOf(content) === of
    const fromServer = async () => (await askAll(kind.list, of ? { id: of } : {})) as Stored<T>[]
    const { stored, isKept } = await orKept(kind, of, () => listed(fromServer, belongs))
    // one that was asked for later may have come before
    if (scope.value !== of || asked < lastShown) return
    lastShown = asked
    if (!isKept) {
      const rows = stored.map(({ revision, content }) => ({ id: content.id, revision, content }))
      outbox.storage.keepDocuments(kind.name, of, rows)
    }
    for (const { revision, content } of stored) revisions.set(content.id, revision)
    // what did not change stays the same object: nothing that shows it starts anew
    const shown = new Map(list.value.map((content) => [content.id, content]))
    const same = (content: T): T => {
      const before = shown.get(content.id)
      return before && JSON.stringify(before) === JSON.stringify(content) ? before : content
    }
    list.value = outbox
      .waitingOf(kind.name)
      .reduce(
        withParcel,
        stored.map(({ content }) => same(content)),
      )
      .sort(kind.order)
    void carry()
  }
  /** Sends what waits, once it is known what was deleted here. */
  async function carry(): Promise<void> {
    for (const { id, revision } of await outbox.storage.documents(kind.name, removedScope))
      if (!revisions.has(id)) revisions.set(id, revision)
    outbox.carry(kind.name, { send, refused, adopted })
  }

  const withParcel = (all: readonly T[], parcel: Parcel): T[] => withErrand(kind, all, parcel, scope.value)
  function note(id: string, revision: number, content: T | null): void {
    revisions.set(id, revision)
    arrived(id, { revision, content })
  }
  async function send(parcel: Parcel): Promise<void> {
    const id = idOfPlace(parcel.place)
    const { errand } = parcel
    // one of a list that is not open is known from when it was
    const known = revisions.get(id) ?? (await outbox.storage.document(kind.name, id))?.revision ?? 0
    if (errand.do === 'put') note(id, await sendPut(kind, errand.content as T, known), errand.content as T)
    else if (errand.do === 'drop' && known) {
      const revision = await sendDrop(kind, id, known)
      if (revision) note(id, revision, null)
      else revisions.delete(id)
    }
  }
  const met = meeting(kind, {
    list: () => list.value,
    show: (theirs, inPlaceOf) =>
      (list.value = changed(
        kind,
        list.value.filter(({ id }) => id !== inPlaceOf),
        theirs,
      )),
    put,
    note: ({ revision, content }) => note(content.id, revision, content),
  })
  function refused(parcel: Parcel, refusal: Refused): boolean {
    const isMet = met(parcel, refusal)
    if (!isMet) void load(scope.value).catch(() => undefined)
    return isMet
  }
  function adopted(parcel: Parcel): void {
    list.value = withParcel(list.value, parcel)
  }
  function put(content: T): void {
    // what belongs elsewhere is stored all the same
    if (kind.scopeOf(content) === scope.value) list.value = changed(kind, list.value, content)
    outbox.post(place(content.id), { do: 'put', content })
  }
  function drop(id: string): void {
    list.value = list.value.filter((each) => each.id !== id)
    outbox.post(place(id), { do: 'drop' })
  }
  function putRead(content: unknown): void {
    const read = kind.schema.safeParse(content)
    if (read.success) put(read.data)
  }
  const revisionOf = (id: string) => revisions.get(id) ?? 0
  followChanges(kind, { scope, revisionOf, load })
  return { list, load, put, drop, revisionOf, acts: { put: putRead, drop } }
}

/** A list with one document new or changed. */
const changed = <T extends { id: string }>({ order }: DocumentKind<T>, all: readonly T[], content: T): T[] =>
  [...all.filter(({ id }) => id !== content.id), content].sort(order)

/** A list as it will be when a parcel has arrived. */
function withErrand<T extends { id: string }>(
  kind: DocumentKind<T>,
  all: readonly T[],
  { place, errand }: Parcel,
  scope: string,
): T[] {
  const gone = idOfPlace(place)
  if (errand.do !== 'put') return all.filter(({ id }) => id !== gone)
  const content = kind.schema.safeParse(errand.content)
  return content.success && kind.scopeOf(content.data) === scope ? changed(kind, all, content.data) : [...all]
}

/** Reads the list anew when something in it was changed elsewhere, unless a change of ours is on its way. */
function followChanges<T extends { id: string }>(
  { name }: DocumentKind<T>,
  page: { scope: Ref<string>; revisionOf: (id: string) => number; load: (scope: string) => Promise<void> },
): void {
  const outbox = useOutbox()
  const read = useDebounceFn(() => {
    if (outbox.waitingOf(name).length === 0) void page.load(page.scope.value).catch(() => undefined)
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

/** Under this the browser remembers what was deleted, so that it can be put back after a reload too. */
const removedScope = '(deleted)'

/** Stores a document on the server, as the next revision after the one it is known to have; gives the new one. */
async function sendPut<T extends { id: string }>(
  kind: DocumentKind<T>,
  content: T,
  baseRevision: number,
): Promise<number> {
  const { id } = content
  const { revision } = NewRevision.parse(await ask(kind.put, { id, body: { baseRevision, content } }))
  useOutbox().storage.keepDocument({ kind: kind.name, id, scope: kind.scopeOf(content), revision, content })
  return revision
}

/** Deletes a document on the server; gives its last revision there, 0 where it never had it. */
async function sendDrop<T extends { id: string }>(
  kind: DocumentKind<T>,
  id: string,
  known: number,
): Promise<number> {
  const { revision } = await ask(kind.drop, { id, query: { revision: known } })
  useOutbox().storage.keepDocument({ kind: kind.name, id, scope: removedScope, revision, content: null })
  return revision
}

/** What the server has under a scope; while it is away, what it had when it was last asked. */
async function orKept<T extends { id: string }>(
  kind: DocumentKind<T>,
  of: string,
  fromServer: () => Promise<Stored<T>[]>,
): Promise<{ stored: Stored<T>[]; isKept: boolean }> {
  try {
    return { stored: await fromServer(), isKept: false }
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error
    const kept = await useOutbox().storage.documents(kind.name, of)
    if (kept.length === 0) throw error
    const stored = kept.flatMap(({ revision, content }) => {
      const read = kind.schema.safeParse(content)
      return read.success ? [{ revision, content: read.data }] : []
    })
    return { stored, isKept: true }
  }
}
