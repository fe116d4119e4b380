import path from 'node:path'
import { sql } from 'kysely'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Edit } from '@iron-hush/core/edits'
import { uuidv7 } from '@iron-hush/core/model'
import { connect, type Database } from './database'
import { loadDemo } from './demo'
import { alone, migrate } from './migrate'
import { gearUses } from './store/gear'
import { proofsOf } from './store/proofs'
import { SceneStore } from './store/scenes'
import { firstRelease, history } from './tests/first-release'
import { freshDatabase, urlOf } from './tests/fresh-database'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

describe('a database of the first release', () => {
  let db: Database
  let stored: Awaited<ReturnType<typeof firstRelease>>
  beforeAll(async () => {
    db = await freshDatabase()
    stored = await firstRelease(db)
    await migrate(db)
  })
  afterAll(() => db.destroy())

  it('keeps every scene as it was, and goes on from there', async () => {
    const store = new SceneStore()
    const { scene, shoot, states } = stored
    const loaded = await store.read(db, scene)
    expect(loaded).toEqual({ id: scene, shoot, revision: states.length, patch: states.at(-1) })
    const edits: Edit[] = [{ kind: 'note', note: 'on the new release' }]
    expect(await store.change(db, scene, { id: id(), baseRevision: states.length, edits })).toEqual({
      revision: states.length + 1,
    })
    expect((await new SceneStore().read(db, scene)).patch.note).toBe('on the new release')
  })
  it('knows the changes it had taken, and every state they led to', async () => {
    const store = new SceneStore()
    const { scene, lastChange, states } = stored
    const again = { id: lastChange, baseRevision: 1, edits: history.at(-1)! }
    expect(await store.change(db, scene, again)).toEqual({ revision: states.length })
    for (const [index, state] of states.entries()) {
      const edits: Edit[] = [{ kind: 'note', note: 'late' }]
      const late = store.change(db, scene, { id: id(), baseRevision: index + 1, edits })
      await expect(late).rejects.toMatchObject({ status: 409, more: { yours: { ...state, note: 'late' } } })
    }
  })
  it('knows what of the shelf is used, and gives measurements a revision', async () => {
    expect(await gearUses(db, 'oriel-short-gun')).toEqual([
      { id: stored.scene, scene: 'At the bench', as: ['Boom'] },
    ])
    expect((await proofsOf(db, stored.scene, { limit: 9 })).rows.map(({ revision }) => revision)).toEqual([1])
  })
})

describe('several servers that start on one new database', () => {
  it('come up, all of them, and the demo is there once', { timeout: 60_000 }, async () => {
    const db = await freshDatabase()
    const { name } = (await sql<{ name: string }>`select current_database() as name`.execute(db)).rows[0]!
    const servers = [1, 2, 3].map(() => connect(urlOf(name)))
    await Promise.all(
      servers.map((each) =>
        alone(each, async () => {
          await migrate(each)
          await loadDemo(each, path.resolve(import.meta.dirname, '../../demo'))
        }),
      ),
    )
    expect(await db.selectFrom('shoots').select('id').execute()).toHaveLength(1)
    await Promise.all([db, ...servers].map((each) => each.destroy()))
  })
})
