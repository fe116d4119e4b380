import { type Stored, stored } from '@iron-hush/core/contract'
import { parse, Take } from '@iron-hush/core/model'
import type { Selectable } from 'kysely'
import type { Database, Tables } from '../database'
import { conflict } from '../problem'
import { type Kept, readable } from './unreadable'
import { refuseWithoutScene } from './refuse-without-scene'
import { putDocument, sameContent } from './put-document'

const StoredTake = stored(Take)

export async function takesOf(db: Database, column: 'scene_id' | 'id', id: string): Promise<Stored<Take>[]> {
  const takes = await db
    .selectFrom('takes')
    .selectAll()
    .where(column, '=', id)
    .orderBy('number')
    .orderBy('started_at')
    .execute()
  return readable(await withMarks(db, takes), fromRow)
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
  rows: async (db) => withMarks(db, await db.selectFrom('takes').selectAll().execute()),
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
    await transaction
      .selectFrom('takes')
      .select('id')
      .where('id', '=', take.id)
      .forUpdate()
      .executeTakeFirst()
    const [now] = await takesOf(transaction, 'id', take.id)
    if (now?.content.number !== take.number) await refuseWhereTaken(transaction, take)
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

/** A scene rolls one take at a time, and each has a number of its own: whoever comes second gets the first to see. */
async function refuseWhereTaken(db: Database, take: Take): Promise<void> {
  const others = (await takesOf(db, 'scene_id', take.scene)).filter(({ content }) => content.id !== take.id)
  const inTheWay = others.find(
    ({ content: other }) => other.number === take.number || (other.endedAt === null && take.endedAt === null),
  )
  if (inTheWay) throw conflict(`Take ${inTheWay.content.number}`, inTheWay, take)
}

export async function dropTake(db: Database, id: string): Promise<{ gone: boolean }> {
  const { numDeletedRows } = await db.deleteFrom('takes').where('id', '=', id).executeTakeFirst()
  return { gone: numDeletedRows > 0 }
}

async function write(db: Database, take: Take, revision: number): Promise<void> {
  const row = {
    id: take.id,
    scene_id: take.scene,
    number: take.number,
    started_at: take.startedAt,
    ended_at: take.endedAt,
    verdict: take.verdict,
    note: take.note,
    revision,
  }
  await db
    .insertInto('takes')
    .values(row)
    .onConflict((clash) => clash.column('id').doUpdateSet(row))
    .execute()
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
