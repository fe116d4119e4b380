import { type GearUse, type Stored, stored } from '@iron-hush/core/contract'
import type { Edit } from '@iron-hush/core/edits'
import { checkGear, Gear, parse, type Patch, Refusal, type Shelf, shelfOf } from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, notFound } from '../problem'
import { putDocument, sameContent } from './put-document'
import { type Kept, readable } from './unreadable'

const StoredGear = stored(Gear)

/** The whole shelf, by kind and name. */
export async function allGear(db: Database): Promise<Stored<Gear>[]> {
  const rows = await db
    .selectFrom('gear')
    .select(['revision', 'document'])
    .orderBy('kind')
    .orderBy('name')
    .execute()
  return readable(rows, fromRow)
}

export const keptGear: Kept = {
  kind: 'gear',
  rows: (db) => db.selectFrom('gear').select(['id', 'revision', 'document']).execute(),
  read: fromRow,
}

/** Of the shelf, what a patch and its edits name: nothing else can matter to them. */
export async function shelfFor(
  db: Database,
  { boxes, links }: Patch,
  edits: readonly Edit[],
): Promise<Shelf> {
  const ids = [...gearNamedIn([boxes, links, edits])]
  if (ids.length === 0) return new Map()
  const rows = await db.selectFrom('gear').select(['revision', 'document']).where('id', 'in', ids).execute()
  return shelfOf(rows.map((row) => fromRow(row).content))
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
export function changeGear(
  db: Database,
  { baseRevision, content }: { baseRevision: number; content: Gear },
): Promise<{ revision: number }> {
  const [problem] = checkGear(content)
  if (problem) throw new Refusal(`This change was refused: ${problem}`)
  return db.transaction().execute(async (transaction) => {
    const row = await transaction
      .selectFrom('gear')
      .select(['revision', 'document'])
      .where('id', '=', content.id)
      .forUpdate()
      .executeTakeFirst()
    if (!row && baseRevision !== 0) throw notFound('This thing')
    if (!row) return create(transaction, content)
    return putDocument({
      name: content.name,
      now: fromRow(row),
      baseRevision,
      content,
      same: sameContent,
      write: (revision) => write(transaction, content, revision),
    })
  })
}

/** A new thing. Of two that are made under one id at once the second is told, unless both are the same. */
async function create(db: Database, content: Gear): Promise<{ revision: number }> {
  const made = await db
    .insertInto('gear')
    .values(rowOf(content, 1))
    .onConflict((clash) => clash.column('id').doNothing())
    .returning('revision')
    .executeTakeFirst()
  if (made) return made
  const other = await db
    .selectFrom('gear')
    .select(['revision', 'document'])
    .where('id', '=', content.id)
    .executeTakeFirstOrThrow()
  const now = fromRow(other)
  if (sameContent(now.content, content)) return { revision: now.revision }
  throw conflict(content.name, now, content)
}

/** Several things, all together or not at all. */
export function takeInGear(db: Database, gear: readonly Gear[]): Promise<{ revision: number }[]> {
  for (const thing of gear) {
    const [problem] = checkGear(thing)
    if (problem) throw new Refusal(`The import was refused, and nothing was stored: ${problem}`)
  }
  return db.transaction().execute(async (transaction) => {
    const rows = await transaction.selectFrom('gear').select(['id', 'revision']).forUpdate().execute()
    const revisions = new Map(rows.map(({ id, revision }) => [id, revision]))
    const answers: { revision: number }[] = []
    for (const thing of gear) {
      const revision = (revisions.get(thing.id) ?? 0) + 1
      await write(transaction, thing, revision)
      revisions.set(thing.id, revision)
      answers.push({ revision })
    }
    return answers
  })
}

/** The scenes in whose chain a thing stands. */
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

export async function dropGear(db: Database, id: string): Promise<{ gone: boolean }> {
  const uses = await gearUses(db, id)
  if (uses.length) {
    const list = uses.map(({ scene, as }) => `${scene} (as ${as.join(', ')})`).join('; ')
    throw new Refusal(`It was not deleted: it is used in ${list}. Swap it there first.`)
  }
  const { numDeletedRows } = await db.deleteFrom('gear').where('id', '=', id).executeTakeFirst()
  return { gone: numDeletedRows > 0 }
}

const rowOf = (gear: Gear, revision: number) => {
  const { id, name, maker, kind, owned } = gear
  return { id, name, maker, kind, owned, revision, document: JSON.stringify(gear) }
}

async function write(db: Database, gear: Gear, revision: number): Promise<void> {
  const { id: _, ...row } = rowOf(gear, revision)
  await db
    .insertInto('gear')
    .values(rowOf(gear, revision))
    .onConflict((clash) => clash.column('id').doUpdateSet(row))
    .execute()
}

function fromRow(row: { revision: number; document: unknown }): Stored<Gear> {
  return parse(StoredGear, { revision: row.revision, content: row.document }, 'The stored thing')
}
