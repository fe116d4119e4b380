import { ref, type Ref, shallowRef } from 'vue'
import type { z } from 'zod'
import { NewRevision, type Request, type Stored } from '@iron-hush/core/contract'
import { ask, Refused, ServerAway } from './ask'
import { useOutbox } from './outbox'
import { idOfPlace, type Parcel } from './parcel'

/** A kind of document that is stored whole. */
export interface DocumentKind<T extends { id: string }> {
  name: 'take' | 'proof' | 'gear'
  schema: z.ZodType<T>
  list: Request
  put: Request<z.ZodType>
  drop: Request
  /** What it is listed under: a scene, or nothing. */
  scopeOf: (content: T) => string
  order: (one: T, other: T) => number
  /** Both versions as one, where that can be done; left out: the server's stays, and the person is told. */
  merge?: (mine: T, theirs: T) => T
  /** What is stored instead of mine where another document stands in its way; `taken` are all that are there. */
  giveWay?: (mine: T, theirs: T, taken: readonly T[]) => T
}

/** Documents of a kind under one scope, as this page has them: the server's, and what is on its way there. */
export interface Documents<T> {
  list: Ref<T[]>
  load: (scope: string) => Promise<void>
  put: (content: T) => void
  drop: (id: string) => void
  /** The same for contents that came out of storage: what does not fit its schema is left alone. */
  acts: { put: (content: unknown) => void; drop: (id: string) => void }
}

export function useDocuments<T extends { id: string }>(kind: DocumentKind<T>): Documents<T> {
  const outbox = useOutbox()
  const list = shallowRef<T[]>([])
  const scope = ref('')
  /** Revisions the server has. What it does not have is new there. */
  const revisions = new Map<string, number>()
  const place = (id: string) => `${kind.name}:${id}`

  async function load(of: string): Promise<void> {
    scope.value = of
    const stored = await listed(kind, of)
    if (scope.value !== of) return
    for (const { revision, content } of stored) revisions.set(content.id, revision)
    list.value = outbox
      .waitingOf(kind.name)
      .reduce(
        withParcel,
        stored.map(({ content }) => content),
      )
      .sort(kind.order)
    outbox.carry(kind.name, { send, refused, adopted })
  }

  const withParcel = (all: readonly T[], { place: to, errand }: Parcel): T[] => {
    const id = idOfPlace(to)
    if (errand.do !== 'put') return all.filter((each) => each.id !== id)
    const content = kind.schema.safeParse(errand.content)
    if (!content.success || kind.scopeOf(content.data) !== scope.value) return [...all]
    return changed(all, content.data)
  }
  const changed = (all: readonly T[], content: T): T[] =>
    [...all.filter(({ id }) => id !== content.id), content].sort(kind.order)

  const send = (parcel: Parcel) => sendTo(kind, parcel, revisions)
  function refused(parcel: Parcel, refusal: Refused): boolean {
    const id = idOfPlace(parcel.place)
    const both = versionsAfter(kind, parcel, refusal)
    if (both?.theirs.content.id === id && kind.merge) {
      revisions.set(id, both.theirs.revision)
      put(kind.merge(both.mine, both.theirs.content))
      return true
    }
    if (both && both.theirs.content.id !== id && kind.giveWay) {
      revisions.set(both.theirs.content.id, both.theirs.revision)
      list.value = changed(
        list.value.filter((each) => each.id !== id),
        both.theirs.content,
      )
      put(kind.giveWay(both.mine, both.theirs.content, list.value))
      return true
    }
    void load(scope.value).catch(() => undefined)
    return false
  }

  function adopted(parcel: Parcel): void {
    list.value = withParcel(list.value, parcel)
  }
  function put(content: T): void {
    // what belongs elsewhere is stored all the same
    if (kind.scopeOf(content) === scope.value) list.value = changed(list.value, content)
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
  return { list, load, put, drop, acts: { put: putRead, drop } }
}

/** Sends one change to the server, and notes what it then has. */
async function sendTo<T extends { id: string }>(
  kind: DocumentKind<T>,
  { place, errand }: Parcel,
  revisions: Map<string, number>,
): Promise<void> {
  const { storage } = useOutbox()
  const id = idOfPlace(place)
  if (errand.do === 'drop') {
    await ask(kind.drop, { id })
    revisions.delete(id)
    storage.removeDocument(kind.name, id)
  } else if (errand.do === 'put') {
    const baseRevision = revisions.get(id) ?? 0
    const { content } = errand
    const { revision } = NewRevision.parse(await ask(kind.put, { id, body: { baseRevision, content } }))
    revisions.set(id, revision)
    storage.keepDocument({ kind: kind.name, id, scope: kind.scopeOf(content as T), revision, content })
  }
}

/** What the server has under a scope; while it is away, what it had when it was last asked. */
async function listed<T extends { id: string }>(kind: DocumentKind<T>, of: string): Promise<Stored<T>[]> {
  const { storage } = useOutbox()
  try {
    const stored = (await ask(kind.list, of ? { id: of } : {})) as Stored<T>[]
    const rows = stored.map(({ revision, content }) => ({ id: content.id, revision, content }))
    storage.keepDocuments(kind.name, of, rows)
    return stored
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error
    const kept = await storage.documents(kind.name, of)
    if (kept.length === 0) throw error
    return kept.flatMap(({ revision, content }) => {
      const read = kind.schema.safeParse(content)
      return read.success ? [{ revision, content: read.data }] : []
    })
  }
}

/** What was to be stored, and what stands there, after a conflict. */
function versionsAfter<T extends { id: string }>(
  { schema }: DocumentKind<T>,
  { errand }: Parcel,
  { status, problem }: Refused,
): { mine: T; theirs: Stored<T> } | undefined {
  const theirs = problem.theirs as Stored<unknown> | null | undefined
  if (status !== 409 || !theirs || errand.do !== 'put') return undefined
  const [mine, stored] = [errand.content, theirs.content].map((each) => schema.safeParse(each))
  return mine?.success && stored?.success
    ? { mine: mine.data, theirs: { revision: theirs.revision, content: stored.data } }
    : undefined
}
