import { health, readiness, readLineage } from '@iron-hush/core/contract'
import { sql } from 'kysely'
import { fulfil, type Route } from '../route'
import { lineageOf } from '../store/lineage'

export const healthRoutes: Route[] = [
  fulfil(health, () => Promise.resolve({ alive: true as const })),
  fulfil(readLineage, async ({ db }) => ({ id: await lineageOf(db) })),
  fulfil(readiness, async ({ db }) => {
    await sql`select 1`.execute(db)
    return { ready: true as const }
  }),
]
