import { type GearUse, type Stored, stored, usesWords } from '@iron-hush/core/contract'
import { sql } from 'kysely'
import type { Edit } from '@iron-hush/core/edits'
import { checkGear, Gear, parse, type Patch, Refusal, type Shelf, shelfOf } from '@iron-hush/core/model'
import type { Database } from '../database'
import { type Page, type PageAsked, pageOf } from '../paging'
import { notFound } from '../problem'
import { putDocument, removeDocument, sameContent } from './put-document'
import { type Kept, readable } from './unreadable'

const StoredGear = stored(Gear)

/** The shelf by kind and name, a page of it. */
export async function allGear(db: Database, page: PageAsked): Promise<Page<Stored<Gear>>> {
  let asked = db
    .selectFrom('gear')
    .select(['kind', 'name', 'id', 'revision', 'document'])
    .where('removed_at', 'is', null)
    .orderBy('kind')
    .orderBy('name')
    .orderBy('id')
    .limit(page.limit + 1)
  if (page.after)
    asked = asked.where(
      sql<boolean>`(kind, name, id) > (${page.after[0]}, ${page.after[1]}, ${page.after[2]})`,
    )
  return pageOf(
    await asked.execute(),
    page,
    ({ kind, name, id }) => [kind, name, id],
    (rows) => readable(rows, fromRow),
  )
}

export const keptGear: Kept = {
  kind: 'gear',
  rows: (db) =>
    db.selectFrom('gear').select(['id', 'revision', 'document']).where('removed_at', 'is', null).execute(),
  read: fromRow,
}

/** Shelf gear that a patch and its edits name: nothing else can matter to them. */
export async function shelfFor(
  db: Database,
  { boxes, links }: Patch,
  edits: readonly Edit[],
): Promise<Shelf> {
  const ids = [...gearNamedIn([boxes, links, edits])]
  if (ids.length === 0) return new Map()
  const rows = await db
    .selectFrom('gear')
    .select(['revision', 'document'])
    .where('id', 'in', ids)
    .where('removed_at', 'is', null)
    .execute()
  return shelfOf(rows.map((row) => fromRow(row).content))
}

/** Shelf gear that a scene uses. */
export async function gearOfScene(db: Database, scene: string): Promise<Stored<Gear>[]> {
  const found = await db
    .selectFrom('scenes')
    .select('id')
    .where('id', '=', scene)
    .where('removed_at', 'is', null)
    .executeTakeFirst()
  if (!found) throw notFound('This scene')
  const rows = await db
    .selectFrom('gear')
    .select(['revision', 'document'])
    .where('id', 'in', (parts) =>
      parts.selectFrom('scene_parts').select('gear_id').where('scene_id', '=', scene),
    )
    .where('removed_at', 'is', null)
    .execute()
  return readable(rows, fromRow)
}

/** Every id under a field `gear`, however deep. */
function gearNamedIn(value: unknown, found = new Set<string>()): Set<string> {
  if (value === null || typeof value !== 'object') return found
  for (const [name, each] of Object.entries(value))
    if (name === 'gear' && typeof each === 'string') found.add(each)
    else gearNamedIn(each, found)
  return found
}

/** Changes a thing, or puts a new one on the shelf. */
export function changeGear(db: Database, change: GearChange): Promise<{ revision: number }> {
  const [problem] = checkGear(change.content)
  if (problem) throw new Refusal(`This change was refused: ${problem}`)
  return db.transaction().execute((transaction) => store(transaction, change))
}

interface GearChange {
  baseRevision: number
  content: Gear
}

/** Several things, all together or not at all. */
export function takeInGear(db: Database, things: readonly GearChange[]): Promise<{ revision: number }[]> {
  for (const { content } of things) {
    const [problem] = checkGear(content)
    if (problem) throw new Refusal(`The import was refused, and nothing was stored: ${problem}`)
  }
  return db.transaction().execute(async (transaction) => {
    const revisions = new Map<GearChange, { revision: number }>()
    // always in one order, so that two imports never wait for each other
    for (const change of things.toSorted((one, other) => (one.content.id < other.content.id ? -1 : 1)))
      revisions.set(change, await store(transaction, change, 'from a file'))
    return things.map((change) => revisions.get(change) ?? { revision: 1 })
  })
}

/**
 * What was deleted and is in an imported file comes back: whoever wrote that file meant it to be there. A change that
 * only comes late does not bring it back.
 */
async function store(
  db: Database,
  { baseRevision, content }: GearChange,
  by: 'from a file' | 'by hand' = 'by hand',
): Promise<{ revision: number }> {
  if (baseRevision === 0 && (await created(db, content))) return { revision: 1 }
  const now = await lockedGear(db, content.id)
  if (!now) throw notFound('This thing')
  return putDocument({
    name: content.name,
    now,
    baseRevision: by === 'from a file' && now.removed && baseRevision === 0 ? now.revision : baseRevision,
    content,
    same: sameContent,
    write: (revision) => write(db, content, revision),
  })
}

/** Whether a new thing was put there; false where its id is known. */
async function created(db: Database, content: Gear): Promise<boolean> {
  const made = await db
    .insertInto('gear')
    .values(rowOf(content, 1))
    .onConflict((clash) => clash.column('id').doNothing())
    .returning('revision')
    .executeTakeFirst()
  return made !== undefined
}

/** A thing as it is stored, also where it is marked as deleted; nobody else changes it meanwhile. */
async function lockedGear(db: Database, id: string) {
  const row = await db
    .selectFrom('gear')
    .select(['revision', 'document', 'removed_at'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirst()
  return row && { ...fromRow(row), removed: row.removed_at !== null }
}

/** The scenes whose chain contains a thing. */
export async function gearUses(db: Database, gear: string): Promise<GearUse[]> {
  const rows = await db
    .selectFrom('scene_parts')
    .innerJoin('scenes', 'scenes.id', 'scene_parts.scene_id')
    .select(['scenes.id', 'scenes.name', 'scene_parts.part'])
    .where('gear_id', '=', gear)
    .where('scenes.removed_at', 'is', null)
    .orderBy('scenes.position')
    .orderBy('scene_parts.position')
    .execute()
  const uses = new Map<string, GearUse>()
  for (const { id, name, part } of rows) {
    const use = uses.get(id) ?? { id, scene: name, as: [] }
    use.as.push(part)
    uses.set(id, use)
  }
  return [...uses.values()]
}

export const dropGear = (db: Database, id: string, revision: number) =>
  db.transaction().execute(async (transaction) => {
    const uses = await gearUses(transaction, id)
    if (uses.length) {
      throw new Refusal(`It was not deleted: it is used in ${usesWords(uses)}. Swap it there first.`)
    }
    return removeDocument(transaction, 'gear', { id, revision }, async () => {
      const theirs = await lockedGear(transaction, id)
      return { name: theirs?.content.name ?? 'This thing', theirs }
    })
  })

const rowOf = (gear: Gear, revision: number) => {
  const { id, name, maker, kind, owned } = gear
  return { id, name, maker, kind, owned, revision, document: JSON.stringify(gear) }
}

const write = (db: Database, gear: Gear, revision: number) =>
  db
    .updateTable('gear')
    .set({ ...rowOf(gear, revision), removed_at: null })
    .where('id', '=', gear.id)
    .execute()

function fromRow(row: { revision: number; document: unknown }): Stored<Gear> {
  return parse(StoredGear, { revision: row.revision, content: row.document }, 'The stored thing')
}
