import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import path from 'node:path'
import type { Edit } from '@iron-hush/core/edits'
import { uuidv7 } from '@iron-hush/core/model'
import { cases } from '../../../core/src/tests/form'
import type { Database } from '../database'
import { loadDemo } from '../demo'
import { migrate } from '../migrate'
import { freshDatabase } from '../tests/fresh-database'
import { SceneStore, snapshotEvery } from './scenes'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
const gain = (position: number): Edit[] => [
  { kind: 'set control', part: 'recorder', control: 'gain-1', position },
]

describe('a scene, kept as edits', () => {
  let db: Database
  let scene: string
  const count = async (table: 'scene_edits' | 'scene_snapshots') =>
    (await db.selectFrom(table).select('revision').where('scene_id', '=', scene).execute()).length
  beforeAll(async () => {
    db = await freshDatabase()
    await migrate(db)
    await loadDemo(db, path.resolve(import.meta.dirname, '../../../demo'))
    scene = (await db.selectFrom('scenes').select('id').orderBy('position').executeTakeFirstOrThrow()).id
  })
  afterAll(() => db.destroy())

  it('is the same from memory as from the edits, also after the shelf has changed', async () => {
    const store = new SceneStore()
    const swaps: Edit[] = [{ kind: 'swap', part: 'camera', gear: 'fennimore-old-reflex' }]
    await store.change(db, scene, { id: id(), baseRevision: 1, edits: gain(41) })
    await store.change(db, scene, { id: id(), baseRevision: 2, edits: swaps })
    const fromMemory = await store.read(db, scene)
    // replaying must not ask the shelf: it is empty for a moment
    const gear = await db.selectFrom('gear').selectAll().execute()
    await db.deleteFrom('gear').execute()
    expect(await new SceneStore().read(db, scene)).toEqual(fromMemory)
    await db
      .insertInto('gear')
      .values(gear.map((row) => ({ ...row, document: JSON.stringify(row.document) })))
      .execute()
  })
  it('is not remembered as what was refused', async () => {
    const store = new SceneStore()
    const before = await store.read(db, scene)
    const refused = store.change(db, scene, { id: id(), baseRevision: before.revision, edits: gain(400) })
    await expect(refused).rejects.toThrow(/cannot be set to/)
    expect(await store.read(db, scene)).toEqual(before)
  })
  it('is kept whole now and then, and drops what lies too far back', async () => {
    const keptRevisions = cases(4, 2) * snapshotEvery
    const store = new SceneStore(keptRevisions)
    let { revision } = await store.read(db, scene)
    const last = keptRevisions + 2 * snapshotEvery
    while (revision < last)
      ({ revision } = await store.change(db, scene, {
        id: id(),
        baseRevision: revision,
        edits: gain(20 + (revision % 20)),
      }))
    expect(await count('scene_edits')).toBe(keptRevisions)
    expect(await count('scene_snapshots')).toBe(keptRevisions / snapshotEvery + 1)
    expect(await new SceneStore().read(db, scene)).toEqual(await store.read(db, scene))
    const early = store.change(db, scene, { id: id(), baseRevision: 2, edits: gain(21) })
    await expect(early).rejects.toMatchObject({ status: 409, more: { yours: null } })
  })
})
