import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { sql } from 'kysely'
import { Gear, parseJson, Patch, refuseBadPatch, ShelfFile, shelfOf, uuidv7 } from '@iron-hush/core/model'
import type { Database } from './database'
import { sameContent } from './store/put-document'
import { insertScene } from './store/scenes'

/** The foundry as it ships. */
export const demoFolder = fileURLToPath(new URL('../../demo', import.meta.url))

interface Demo {
  gear: Gear[]
  scenes: Patch[]
}

function readDemo(folder: string): Demo {
  const read = (file: string) => readFileSync(path.join(folder, file), 'utf8')
  const { gear } = parseJson(ShelfFile, read('shelf.json'), 'The demo shelf')
  const scenes = readdirSync(path.join(folder, 'scenes'))
    .sort()
    .map((file) => parseJson(Patch, read(`scenes/${file}`), file))
  for (const patch of scenes) refuseBadPatch(patch, shelfOf(gear), patch.name)
  return { gear, scenes }
}

/** Loads the foundry into a database that holds nothing yet, whole or not at all. Says whether it did. */
export function loadDemo(db: Database, folder = demoFolder): Promise<boolean> {
  const demo = readDemo(folder)
  return db.transaction().execute(async (transaction) => {
    if (await transaction.selectFrom('shoots').select('id').limit(1).executeTakeFirst()) return false
    await insert(transaction, demo)
    return true
  })
}

/**
 * Brings the demo back as it shipped, as a shoot of its own. Gear that is there stays as it is; what was deleted comes
 * back.
 */
export const insertDemo = (db: Database, folder = demoFolder): Promise<void> =>
  db.transaction().execute((transaction) => insert(transaction, readDemo(folder)))

async function insert(db: Database, { gear, scenes }: Demo): Promise<void> {
  const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
  const shoot = id()
  await db.insertInto('shoots').values({ id: shoot, name: 'Bell foundry, short film', demo: true }).execute()
  await db
    .insertInto('gear')
    .values(
      gear.map((thing) => ({
        id: thing.id,
        name: thing.name,
        maker: thing.maker,
        kind: thing.kind,
        owned: thing.owned,
        revision: 1,
        document: JSON.stringify(thing),
      })),
    )
    .onConflict((clash) =>
      clash
        .column('id')
        .doUpdateSet({ removed_at: null, revision: sql<number>`gear.revision + 1` })
        .where('gear.removed_at', 'is not', null),
    )
    .execute()
  for (const [position, patch] of scenes.entries())
    await insertScene(db, { id: id(), shoot, position, patch })
}

/**
 * Gives gear of the demo that is stored as it once shipped the fields that it has come by since (how a microphone is
 * used, what a camera's picture usually is, what marks its meter has). What was changed by hand otherwise stays as it is.
 */
export async function completeDemoGear(db: Database, folder = demoFolder): Promise<number> {
  let completed = 0
  for (const { mount, picture, meter, ...shipped } of readDemo(folder).gear) {
    if (!mount && !picture && !meter) continue
    const row = await db.selectFrom('gear').select('document').where('id', '=', shipped.id).executeTakeFirst()
    const { success, data } = Gear.safeParse(row?.document)
    // how many are owned is everybody's own
    if (!success || isComplete(data, { mount, picture, meter })) continue
    const { mount: _mount, picture: _picture, meter: _meter, ...stored } = data
    if (!sameContent({ ...stored, owned: 0 }, { ...shipped, owned: 0 })) continue
    const document = JSON.stringify({ ...data, mount, picture, meter })
    await db.updateTable('gear').set({ document }).where('id', '=', shipped.id).execute()
    completed++
  }
  return completed
}

/** Whether a thing has every field that it has come by since. */
const isComplete = (thing: Gear, fields: Partial<Gear>): boolean =>
  Object.entries(fields).every(([field, value]) => value === undefined || field in thing)
