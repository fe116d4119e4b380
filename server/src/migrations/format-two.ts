import { type Kysely, sql } from 'kysely'
import { currentFormat, lastOf } from '@iron-hush/core/model'

/** Where patches, edits and gear are kept as JSON. */
const stored = [
  ['scene_snapshots', 'patch'],
  ['scene_edits', 'edits'],
  ['gear', 'document'],
] as const
const rowsAtOnce = 200

/** Everything stored is brought to version 2 of the format, a few rows at a time. */
export async function formatTwo(db: Kysely<unknown>): Promise<void> {
  for (const [name, column] of stored) {
    const [table, json] = [sql.table(name), sql.ref(column)]
    for (let after = '(0,0)'; ;) {
      const { rows } = await sql<{ place: string; json: unknown }>`
        select ctid::text place, ${json} json from ${table} where ctid > ${after}::tid order by ctid limit ${rowsAtOnce}
      `.execute(db)
      if (rows.length === 0) break
      after = lastOf(rows).place
      for (const row of rows) {
        const now = JSON.stringify(currentFormat(row.json))
        if (now !== JSON.stringify(row.json))
          await sql`update ${table} set ${json} = ${now}::jsonb where ctid = ${row.place}::tid`.execute(db)
      }
    }
  }
}
