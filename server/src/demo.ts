import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { parseJson, Patch, refuseBadPatch, ShelfFile, shelfOf, uuidv7 } from '@iron-hush/core/model'
import type { Database } from './database'
import { insertScene } from './store/scenes'

/** Loads the foundry into a database that holds nothing yet, whole or not at all. Says whether it did. */
export async function loadDemo(db: Database, folder: string): Promise<boolean> {
  const read = (file: string) => readFileSync(path.join(folder, file), 'utf8')
  const shelf = parseJson(ShelfFile, read('shelf.json'), 'The demo shelf').gear
  const scenes = readdirSync(path.join(folder, 'scenes'))
    .sort()
    .map((file) => parseJson(Patch, read(`scenes/${file}`), file))
  for (const patch of scenes) refuseBadPatch(patch, shelfOf(shelf), patch.name)
  return db.transaction().execute(async (transaction) => {
    if (await transaction.selectFrom('shoots').select('id').limit(1).executeTakeFirst()) return false
    const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
    const shoot = id()
    await transaction.insertInto('shoots').values({ id: shoot, name: 'Bell foundry, short film' }).execute()
    await transaction
      .insertInto('gear')
      .values(
        shelf.map((gear) => ({
          id: gear.id,
          name: gear.name,
          maker: gear.maker,
          kind: gear.kind,
          owned: gear.owned,
          revision: 1,
          document: JSON.stringify(gear),
        })),
      )
      .execute()
    for (const [position, patch] of scenes.entries())
      await insertScene(transaction, { id: id(), shoot, position, patch })
    return true
  })
}
