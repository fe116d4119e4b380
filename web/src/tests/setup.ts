import Dexie from 'dexie'
import { IDBKeyRange, indexedDB } from 'fake-indexeddb'

// the page's storage: files that share what they import also share the Dexie that looked for it first
Dexie.dependencies = { indexedDB, IDBKeyRange }
