import { readFileSync } from 'node:fs'
import path from 'node:path'
import { sql } from 'kysely'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { applyEdits, type Edit } from '@iron-hush/core/edits'
import { parseJson, Patch, ShelfFile, shelfOf, uuidv7 } from '@iron-hush/core/model'
import { connect, type Database } from './database'
import { loadDemo } from './demo'
import { alone, migrate } from './migrate'
import { first } from './migrations/first'
import { gearUses } from './store/gear'
import { proofsOf } from './store/proofs'
import { SceneStore } from './store/scenes'
import { measured } from './tests/measured'
import { freshDatabase, urlOf } from './tests/fresh-database'

const demo = path.resolve(import.meta.dirname, '../../demo')
const read = (file: string) => readFileSync(path.join(demo, file), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const bench = parseJson(Patch, read('scenes/1-the-founder-at-the-bench.json'), 'bench')
const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

/** What the first release did to a scene, with the whole patch stored at every revision. */
const history: Edit[][] = [
  [{ kind: 'set control', part: 'recorder', control: 'gain-1', position: 41 }],
  [{ kind: 'swap', part: 'camera', gear: 'fennimore-old-reflex' }],
  [{ kind: 'set wiring', boxes: bench.boxes, links: bench.links }],
  [{ kind: 'rename', name: 'At the bench' }],
  [
    { kind: 'disconnect', link: 'ears' },
    { kind: 'remove box', box: 'phones' },
  ],
]

describe('a database of the first release', () => {
  let db: Database
  const [scene, shoot, lastChange, proof] = [id(), id(), id(), id()]
  const states: Patch[] = [bench]
  beforeAll(async () => {
    db = await freshDatabase()
    await first(db as never)
    await sql`create table migrations (name text primary key, made_at timestamptz not null default now())`.execute(
      db,
    )
    await db.insertInto('migrations').values({ name: '0001-first' }).execute()
    for (const edits of history) states.push(parsed(applyEdits(states.at(-1)!, edits, shelf)))
    const now = states.at(-1)!
    await sql`insert into shoots (id, name) values (${shoot}, 'foundry')`.execute(db)
    await sql`insert into scenes (id, shoot_id, position, name, revision, patch)
      values (${scene}, ${shoot}, 0, ${now.name}, ${states.length}, ${versionOne(now)})`.execute(db)
    for (const [index, state] of states.entries())
      await sql`insert into scene_revisions (scene_id, revision, change_id, edits, patch)
        values (${scene}, ${index + 1}, ${index + 1 === states.length ? lastChange : id()},
          ${versionOne(history[index - 1] ?? [])}, ${versionOne(state)})`.execute(db)
    await sql`insert into proofs (id, scene_id, clip, recording, measured_at, measurement)
      values (${proof}, ${scene}, 'a.wav', 'camera.left', now(), ${JSON.stringify(measured)})`.execute(db)
    await migrate(db)
  })
  afterAll(() => db.destroy())

  it('keeps every scene as it was, and goes on from there', async () => {
    const store = new SceneStore()
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
      { id: scene, scene: 'At the bench', as: ['Boom'] },
    ])
    expect((await proofsOf(db, scene, { limit: 9 })).rows.map(({ revision }) => revision)).toEqual([1])
  })
})

/** As release 1 wrote it. */
const earlier: Record<string, string> = {
  peakTarget: 'school',
  counts: 'keeper',
  pieces: 'through',
  reversed: 'turned',
  direction: 'way',
  toleratesVolts: 'bearsVolts',
  minimumVolts: 'leastVolts',
  typicalVolts: 'usualVolts',
  typicalAmperes: 'usualAmperes',
}
const versionOne = (value: unknown): string =>
  JSON.stringify(value)
    .replace(/"(\w+)":/g, (all, name: string) => (earlier[name] ? `"${earlier[name]}":` : all))
    .replace('"version":2', '"version":1')

const parsed = (patch: Patch): Patch => Patch.parse(JSON.parse(JSON.stringify(patch)))

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
