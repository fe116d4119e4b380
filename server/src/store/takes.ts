import { type Stored, stored } from '@iron-hush/core/contract'
import { parse, Take } from '@iron-hush/core/model'
import { type Selectable, sql } from 'kysely'
import type { Database, Tables } from '../database'
import { type Page, type PageAsked, pageOf } from '../paging'
import { conflict } from '../problem'
import { type Kept, readable } from './unreadable'
import { refuseWithoutScene } from './refuse-without-scene'
import { putDocument, removeDocument, sameContent } from './put-document'

const StoredTake = stored(Take)

/** The takes of a scene by number, a page of them. */
export async function takesOf(db: Database, scene: string, page: PageAsked): Promise<Page<Stored<Take>>> {
  let asked = db
    .selectFrom('takes')
    .selectAll()
    .where('scene_id', '=', scene)
    .where('removed_at', 'is', null)
    .orderBy('number')
    .orderBy('id')
    .limit(page.limit + 1)
  if (page.after)
    asked = asked.where(sql<boolean>`(number, id) > (${page.after[0]}::integer, ${page.after[1]}::uuid)`)
  const rows = await withMarks(db, await asked.execute())
  return pageOf(
    rows,
    page,
    ({ number, id }) => [String(number), id],
    (shown) => readable(shown, fromRow),
  )
}

type TakeRow = Selectable<Tables['takes']> & { marks: Selectable<Tables['marks']>[] }

async function withMarks(db: Database, takes: Selectable<Tables['takes']>[]): Promise<TakeRow[]> {
  if (takes.length === 0) return []
  const ids = takes.map((take) => take.id)
  const marks = await db.selectFrom('marks').selectAll().where('take_id', 'in', ids).orderBy('at_s').execute()
  return takes.map((take) => ({ ...take, marks: marks.filter(({ take_id }) => take_id === take.id) }))
}

export const keptTakes: Kept = {
  kind: 'take',
  rows: async (db) =>
    withMarks(db, await db.selectFrom('takes').selectAll().where('removed_at', 'is', null).execute()),
  read: fromRow,
}

function fromRow(row: TakeRow): Stored<Take> {
  const content = {
    id: row.id,
    scene: row.scene_id,
    number: row.number,
    startedAt: row.started_at.toISOString(),
    endedAt: row.ended_at?.toISOString() ?? null,
    verdict: row.verdict,
    note: row.note,
    parts: row.parts,
    marks: row.marks.map(({ id, kind, at_s, channel, note }) => ({ id, kind, atS: at_s, channel, note })),
  }
  return parse(StoredTake, { revision: row.revision, content }, 'The stored take')
}

/** Stores a take with its marks, whole. */
export function changeTake(
  db: Database,
  { baseRevision, content: take }: { baseRevision: number; content: Take },
): Promise<{ revision: number }> {
  return db.transaction().execute(async (transaction) => {
    await refuseWithoutScene(transaction, take.scene, 'The scene of this take')
    const now = await lockedTake(transaction, take.id)
    if (now?.removed !== false || now.content.number !== take.number)
      await refuseWhereTaken(transaction, take)
    return putDocument({
      name: `Take ${take.number}`,
      now,
      baseRevision,
      content: take,
      same: (one, other) => sameContent(byId(one), byId(other)),
      write: (revision) => write(transaction, take, revision),
    })
  })
}

/** A take as it is stored, also where it is marked as deleted; nobody else changes it meanwhile. */
async function lockedTake(db: Database, id: string) {
  const row = await db.selectFrom('takes').selectAll().where('id', '=', id).forUpdate().executeTakeFirst()
  if (!row) return undefined
  const [take] = await withMarks(db, [row])
  return take && { ...fromRow(take), removed: row.removed_at !== null }
}

/** A scene rolls one take at a time, and each has a different number: a second one is refused with the first. */
async function refuseWhereTaken(db: Database, take: Take): Promise<void> {
  const found = await db
    .selectFrom('takes')
    .selectAll()
    .where('scene_id', '=', take.scene)
    .where('id', '!=', take.id)
    .where('removed_at', 'is', null)
    .where((row) =>
      row.or([
        row('number', '=', take.number),
        ...(take.endedAt === null ? [row('ended_at', 'is', null)] : []),
      ]),
    )
    .orderBy('number')
    .limit(1)
    .execute()
  const [inTheWay] = readable(await withMarks(db, found), fromRow)
  if (inTheWay) throw conflict(`Take ${inTheWay.content.number}`, inTheWay, take)
}

export const dropTake = (db: Database, id: string, revision: number) =>
  db.transaction().execute((transaction) =>
    removeDocument(transaction, 'takes', { id, revision }, async () => {
      const theirs = await lockedTake(transaction, id)
      return { name: `Take ${theirs?.content.number}`, theirs }
    }),
  )

async function write(db: Database, take: Take, revision: number): Promise<void> {
  const row = {
    id: take.id,
    scene_id: take.scene,
    number: take.number,
    started_at: take.startedAt,
    ended_at: take.endedAt,
    verdict: take.verdict,
    note: take.note,
    parts: JSON.stringify(take.parts),
    revision,
    removed_at: null,
  }
  const written = await db
    .insertInto('takes')
    .values(row)
    // a new one that has come by another way in the meantime stays
    .onConflict((clash) =>
      revision === 1 ? clash.column('id').doNothing() : clash.column('id').doUpdateSet(row),
    )
    .returning('id')
    .executeTakeFirst()
  if (!written) throw conflict('This take', null, take)
  await db.deleteFrom('marks').where('take_id', '=', take.id).execute()
  if (take.marks.length)
    await db
      .insertInto('marks')
      .values(take.marks.map(({ atS, ...mark }) => ({ ...mark, at_s: atS, take_id: take.id })))
      .execute()
}

/** The order of marks means nothing. */
const byId = (take: Take): Take => ({
  ...take,
  marks: [...take.marks].sort((one, other) => (one.id < other.id ? -1 : 1)),
})
