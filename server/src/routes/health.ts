import { health, readiness } from '@iron-hush/core/contract'
import { sql } from 'kysely'
import { fulfil, type Route } from '../route'

export const healthRoutes: Route[] = [
  fulfil(health, () => Promise.resolve({ alive: true as const })),
  fulfil(readiness, async ({ db }) => {
    await sql`select 1`.execute(db)
    return { ready: true as const }
  }),
]
