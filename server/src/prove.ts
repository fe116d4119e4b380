import { connect } from './database'
import { migrate } from './migrate'
import { everythingKept } from './routes/unreadable'
import { beginLineage } from './store/lineage'
import { SceneStore } from './store/scenes'
import { unreadableIn } from './store/unreadable'

/**
 * Brings a restored database to this release, reads everything in it once, and begins a new life of it. Prints what it
 * found as JSON. Run by `npm run restore` before anything is swapped.
 */
async function main(): Promise<void> {
  const db = connect(process.env.DATABASE_URL ?? '')
  try {
    await migrate(db)
    const store = new SceneStore()
    const scenes = await db.selectFrom('scenes').select('id').execute()
    for (const { id } of scenes) await store.read(db, id)
    const unreadable = await unreadableIn(db, everythingKept)
    await beginLineage(db)
    console.log(JSON.stringify({ scenes: scenes.length, unreadable: unreadable.length }))
  } finally {
    await db.destroy()
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(1)
})
