import { deleteDB, openDB } from 'idb'
import { beforeEach, describe, expect, it } from 'vitest'
import { tables } from './tables'

const scene = { kind: 'scene', id: 'one', scope: '', revision: 3, content: { plan: { school: 'drama' } } }

beforeEach(() => deleteDB('iron-hush'))

describe('the tables of this browser', () => {
  it('keep what the first release wrote, under the names of this one', async () => {
    // as it left them
    const first = await openDB('iron-hush', 10, {
      upgrade(database) {
        database.createObjectStore('parcels', { keyPath: 'id' })
        database
          .createObjectStore('documents', { keyPath: ['kind', 'id'] })
          .createIndex('[kind+scope]', ['kind', 'scope'])
      },
    })
    await first.put('documents', scene)
    first.close()
    const now = await tables()
    expect(await now.getAllFromIndex('documents', '[kind+scope]', ['scene', ''])).toEqual([
      { ...scene, content: { plan: { peakTarget: 'drama' } } },
    ])
    expect([...now.objectStoreNames]).toEqual(['aside', 'clips', 'documents', 'histories', 'parcels'])
  })
  it('make way for a newer release in another tab, and say so to whoever writes after that', async () => {
    await (await tables()).put('histories', { place: 'gear', line: [] })
    const newer = await openDB('iron-hush', 60)
    expect(await newer.get('histories', 'gear')).toEqual({ place: 'gear', line: [] })
    await expect(tables()).rejects.toThrow(/version/)
    newer.close()
    await deleteDB('iron-hush')
    expect(await (await tables()).getAll('histories')).toEqual([])
  })
})
