import { readFileSync } from 'node:fs'
import path from 'node:path'
import { sql } from 'kysely'
import { applyEdits, type Edit } from '@iron-hush/core/edits'
import { parseJson, Patch, ShelfFile, shelfOf, uuidv7 } from '@iron-hush/core/model'
import type { Database } from '../database'
import { first } from '../migrations/first'
import { measured } from './measured'

const demo = path.resolve(import.meta.dirname, '../../../demo')
const read = (file: string) => readFileSync(path.join(demo, file), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const bench = parseJson(Patch, read('scenes/1-the-founder-at-the-bench.json'), 'bench')
const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

/** What the first release did to a scene, with the whole patch stored at every revision. */
export const history: Edit[][] = [
  [{ kind: 'set control', part: 'recorder', control: 'gain-1', position: 41 }],
  [{ kind: 'swap', part: 'camera', gear: 'fennimore-old-reflex' }],
  [{ kind: 'set wiring', boxes: bench.boxes, links: bench.links }],
  [{ kind: 'rename', name: 'At the bench' }],
  [
    { kind: 'disconnect', link: 'ears' },
    { kind: 'remove box', box: 'phones' },
  ],
]

/** Makes the tables of the first release in an empty database, with a scene and a measurement as it stored them. */
export async function firstRelease(db: Database) {
  const [scene, shoot, lastChange, proof] = [id(), id(), id(), id()]
  const states: Patch[] = [bench]
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
  return { scene, shoot, lastChange, states }
}

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
