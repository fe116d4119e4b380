import { NewRevision, type Stored } from '@iron-hush/core/contract'
import { ask, askAll, type Between, ServerAway } from './ask'
import type { DocumentKind } from './document-kind'
import { inOrder } from './in-order'
import { useOutbox } from './outbox'
import { overtaking } from './overtaking'
import { idOfPlace, type Parcel } from './parcel'
import { isSameList } from './same-list'

/** Under this the browser remembers what was deleted, so that it can be put back after a reload too. */
const removedScope = '(deleted)'

/** The server's documents of a kind, as far as this page knows, and how they are read and written. */
export function serverSide<T extends { id: string }>(kind: DocumentKind<T>) {
  const { storage } = useOutbox()
  /** Revisions the server has, also of what was deleted here. What it does not have is new there. */
  const revisions = new Map<string, number>()
  const { arrived, listed } = overtaking<T>(kind.scopeOf)
  /** The list that the browser keeps. */
  let kept: { scope: string; stored: readonly Stored<T>[] } | undefined
  const latest = inOrder()

  /** Notes what the server has; `null` for what was deleted there. */
  function note(id: string, revision: number, content: T | null): void {
    revisions.set(id, revision)
    arrived(id, { revision, content })
  }

  /** The documents of a scope; undefined if a later request was answered first. */
  async function read(scope: string, between?: Between): Promise<Stored<T>[] | undefined> {
    const asked = scope ? { id: scope } : {}
    const fromServer = async () => (await askAll(kind.list, asked, between)) as Stored<T>[]
    const found = await latest(() => orKept(kind, scope, () => listed(scope, fromServer)))
    if (!found) return undefined
    const { stored, isKept } = found
    const rows = stored.map(({ revision, content }) => ({ id: content.id, revision, content }))
    for (const { id, revision } of rows) revisions.set(id, revision)
    if (isKept || (kept?.scope === scope && isSameList(kept.stored, stored))) return stored
    storage.keepDocuments(kind.name, scope, rows)
    kept = { scope, stored }
    return stored
  }

  /** Learns what was deleted here before this page was opened. */
  async function readRemoved(): Promise<void> {
    for (const { id, revision } of await storage.documents(kind.name, removedScope))
      if (!revisions.has(id)) revisions.set(id, revision)
  }

  async function send({ place, errand }: Parcel): Promise<void> {
    const id = idOfPlace(place)
    // one of a list that is not open is known from when it was
    const known = revisions.get(id) ?? (await storage.document(kind.name, id))?.revision ?? 0
    if (errand.do === 'put') await put(errand.content as T, known)
    else if (errand.do === 'drop' && known) await drop(id, known)
  }
  async function put(content: T, baseRevision: number): Promise<void> {
    const { id } = content
    const { revision } = NewRevision.parse(await ask(kind.put, { id, body: { baseRevision, content } }))
    note(id, revision, content)
    storage.keepDocument({ kind: kind.name, id, scope: kind.scopeOf(content), revision, content })
  }
  async function drop(id: string, known: number): Promise<void> {
    const { revision } = await ask(kind.drop, { id, query: { revision: known } })
    if (revision) note(id, revision, null)
    else revisions.delete(id)
    storage.keepDocument({ kind: kind.name, id, scope: removedScope, revision, content: null })
  }

  /** The revision that the server has, as far as is known; 0 for what it never had. */
  const revisionOf = (id: string): number => revisions.get(id) ?? 0
  return { read, readRemoved, send, note, revisionOf }
}

/** The server's documents; while it is away, those of the last answer. */
async function orKept<T extends { id: string }>(
  kind: DocumentKind<T>,
  scope: string,
  fromServer: () => Promise<Stored<T>[]>,
): Promise<{ stored: Stored<T>[]; isKept: boolean }> {
  try {
    return { stored: await fromServer(), isKept: false }
  } catch (error) {
    if (!(error instanceof ServerAway)) throw error
    const kept = await useOutbox().storage.documents(kind.name, scope)
    if (kept.length === 0) throw error
    const stored = kept.flatMap(({ revision, content }) => {
      const read = kind.schema.safeParse(content)
      return read.success ? [{ revision, content: read.data }] : []
    })
    return { stored, isKept: true }
  }
}
