import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { currentFormat } from '@iron-hush/core/model'

/** A document as the server last had it, under the scope it is listed under: a scene, or none. */
export interface Kept {
  kind: string
  id: string
  scope: string
  revision: number
  content?: unknown
}

/** What is read from a table was written by some release: its reader validates it. */
interface Tables extends DBSchema {
  parcels: { key: string; value: { id: string } }
  documents: { key: [string, string]; value: Kept; indexes: { '[kind+scope]': [string, string] } }
  histories: { key: string; value: { place: string; line: unknown } }
  aside: { key: string; value: { id: string; aside: unknown } }
  clips: { key: string; value: { id: string; file: Blob } }
}
type Database = IDBPDatabase<Tables>

/** Releases of the tables, ten apart, as the first releases of this page counted them. */
const version = 50
let opening: Promise<Database> | undefined

/** The tables of this browser, opened once for the page. Rejects where the browser allows no storage. */
export function tables(): Promise<Database> {
  return (opening ??= open().catch((error: unknown) => {
    // asked again later, it may be possible
    opening = undefined
    throw error
  }))
}

const open = (): Promise<Database> =>
  openDB<Tables>('iron-hush', version, {
    async upgrade(database, from, _to, change) {
      if (from < 10) {
        database.createObjectStore('parcels', { keyPath: 'id' })
        const documents = database.createObjectStore('documents', { keyPath: ['kind', 'id'] })
        documents.createIndex('[kind+scope]', ['kind', 'scope'])
      }
      if (from < 30) database.createObjectStore('histories', { keyPath: 'place' })
      if (from < 40) database.createObjectStore('aside', { keyPath: 'id' })
      if (from < 50) database.createObjectStore('clips', { keyPath: 'id' })
      // version 2 of the format; the tables stayed
      if (from === 10)
        for (const name of ['parcels', 'documents'] as const) {
          const table = change.objectStore(name)
          for (const each of await table.getAll()) await table.put(currentFormat(each) as Kept)
        }
    },
    // a newer release in another tab may go ahead; what this page still has to keep is opened again for it
    blocking: (_from, _to, event) => {
      opening = undefined
      ;(event.target as IDBDatabase).close()
    },
    terminated: () => (opening = undefined),
  })

type Name = 'parcels' | 'documents' | 'histories' | 'aside' | 'clips'

/**
 * Writes are committed in the same moment as they are asked for: a page that goes before it hears of them would take back
 * what is not.
 */
export async function put<Table extends Name>(table: Table, value: Tables[Table]['value']): Promise<void> {
  const change = (await tables()).transaction(table, 'readwrite')
  const asked = change.objectStore(table).put(value)
  change.commit()
  await Promise.all([asked, change.done])
}
export async function remove<Table extends Name>(table: Table, key: Tables[Table]['key']): Promise<void> {
  const change = (await tables()).transaction(table, 'readwrite')
  const asked = change.objectStore(table).delete(key)
  change.commit()
  await Promise.all([asked, change.done])
}

// opened while the rest of the script is read; whoever needs the tables says why they cannot be
tables().catch(() => undefined)
