import { z } from 'zod'
import { earlierParcels } from './earlier-outbox'
import { idle } from './idle'
import { Parcel } from './parcel'
import { plain } from './plain'
import { put, remove, tables } from './tables'

/** A document as the server last had it, so that it can be opened while the server is away. */
const Replica = z.strictObject({
  kind: z.string(),
  id: z.string(),
  /** The scope it is listed under: a scene, or none. */
  scope: z.string(),
  revision: z.number(),
  content: z.unknown(),
})
export type Replica = z.infer<typeof Replica>

/**
 * What this browser keeps: parcels for the server, and documents as the server last had them. Writes of each go one
 * after another. Where the browser refuses one (full, private window), `refused` is called, and the page goes on from memory.
 */
export class Storage {
  /** Writes under way: a person's changes do not wait for copies of the server's documents. */
  private last = { own: Promise.resolve() as Promise<unknown>, copies: Promise.resolve() as Promise<unknown> }
  /** Lists that wait for an idle moment, by kind and scope: a page that opens has better to do. */
  private lists = new Map<string, Replica[]>()

  constructor(private readonly refused: (error: unknown) => void) {}

  /** Parcels of all tabs, in order. What no longer fits its schema stays where it is; `unreadable` counts it. */
  async parcels(): Promise<{ parcels: Parcel[]; unreadable: number }> {
    await this.last.own
    const stored = await all('parcels').catch((error: unknown) => {
      this.refused(error)
      return []
    })
    const earlier = earlierParcels(localStorage)
    for (const parcel of earlier) this.keep(parcel)
    const read = stored.map((each) => Parcel.safeParse(each))
    const parcels = [...earlier, ...read.flatMap(({ data }) => data ?? [])]
    return {
      parcels: parcels.sort((one, other) => one.order - other.order),
      unreadable: read.filter(({ success }) => !success).length,
    }
  }

  keep(parcel: Parcel): void {
    this.write('own', put('parcels', plain(parcel)))
  }
  remove({ id }: Parcel): void {
    this.write('own', remove('parcels', id))
  }

  /** Documents of a kind in a scope. Invalid ones are left out: the server has them. */
  async documents(kind: string, scope: string): Promise<Replica[]> {
    if (this.lists.has(listKey(kind, scope))) this.writeLists(kind)
    await this.last.copies
    const stored = await tables()
      .then((open) => open.getAllFromIndex('documents', '[kind+scope]', [kind, scope]))
      .catch(() => [])
    return stored.flatMap((each) => Replica.safeParse(each).data ?? [])
  }
  /** One document, in any scope. */
  async document(kind: string, id: string): Promise<Replica | undefined> {
    this.writeLists(kind)
    await this.last.copies
    const stored = await tables()
      .then((open) => open.get('documents', [kind, id]))
      .catch(() => undefined)
    return Replica.safeParse(stored).data
  }
  /** Every document that is kept, of every kind. */
  async everything(): Promise<Replica[]> {
    this.writeLists()
    await this.last.copies
    const stored = await all('documents').catch(() => [])
    return stored.flatMap((each) => Replica.safeParse(each).data ?? [])
  }
  /** Replaces all documents of a kind in a scope. */
  keepDocuments(kind: string, scope: string, documents: readonly Omit<Replica, 'kind' | 'scope'>[]): void {
    this.lists.set(
      listKey(kind, scope),
      documents.map((each) => ({ ...each, kind, scope })),
    )
    void idle().then(() => this.writeLists())
  }
  keepDocument(document: Replica): void {
    this.writeLists(document.kind)
    this.write('copies', put('documents', plain(document)))
  }
  removeDocument(kind: string, id: string): void {
    this.writeLists(kind)
    this.write('copies', remove('documents', [kind, id]))
  }
  /** Writes the lists that wait, of one kind or of all, before anything that is newer. */
  private writeLists(only?: string): void {
    for (const [key, documents] of this.lists) {
      const [kind, scope] = JSON.parse(key) as [string, string]
      if (only !== undefined && kind !== only) continue
      this.lists.delete(key)
      this.writeList([kind, scope], documents)
    }
  }
  private writeList(place: [kind: string, scope: string], documents: readonly Replica[]): void {
    const listed = new Set(documents.map(({ id }) => id))
    const replaced = async () => {
      const change = (await tables()).transaction('documents', 'readwrite')
      const keys = await change.store.index('[kind+scope]').getAllKeys(place)
      const gone = keys.filter(([, id]) => !listed.has(id))
      await Promise.all([
        ...gone.map((key) => change.store.delete(key)),
        ...documents.map((each) => change.store.put(plain(each))),
        change.done,
      ])
    }
    this.write('copies', replaced())
  }

  /** The stored history of a place; its reader validates it. */
  async history(place: string): Promise<unknown> {
    await this.last.own
    const stored = await tables()
      .then((open) => open.get('histories', place))
      .catch(() => undefined)
    return stored?.line
  }
  keepHistory(place: string, line: unknown): void {
    this.write('own', put('histories', { place, line: plain(line) }))
  }

  /** Changes refused for good that wait for the person; their reader validates them. */
  async setAside(): Promise<unknown[]> {
    await this.last.own
    return (await all('aside').catch(() => [])).map(({ aside }) => aside)
  }
  keepAside(id: string, aside: unknown): void {
    this.write('own', put('aside', { id, aside: plain(aside) }))
  }
  removeAside(id: string): void {
    this.write('own', remove('aside', id))
  }

  /** Sound that a person keeps here; rejects where the browser has no room for it. */
  async keepClip(id: string, file: Blob): Promise<void> {
    await put('clips', { id, file })
  }
  async clips(): Promise<{ id: string; file: Blob }[]> {
    return all('clips').catch(() => [])
  }
  removeClip(id: string): void {
    this.write('own', remove('clips', id))
  }

  /** Resolves once everything written so far is stored or refused. */
  settled(): Promise<unknown> {
    this.writeLists()
    return Promise.all([this.last.own, this.last.copies])
  }

  /** The browser keeps writes of a table in order. */
  private write(what: 'own' | 'copies', written: Promise<unknown>): void {
    this.last[what] = Promise.all([this.last[what], written.catch(this.refused)])
  }
}

/** All that a table holds. */
const all = async <Name extends 'parcels' | 'documents' | 'aside' | 'clips'>(name: Name) =>
  (await tables()).getAll(name)

const listKey = (kind: string, scope: string) => JSON.stringify([kind, scope])
