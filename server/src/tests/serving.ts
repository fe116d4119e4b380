import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { sql } from 'kysely'
import { type Logger, pino } from 'pino'
import { createApp } from '../app'
import { Changes } from '../changes'
import type { Database } from '../database'
import { loadDemo } from '../demo'
import { migrate } from '../migrate'
import { freshDatabase, urlOf } from './fresh-database'

export interface Answer {
  status: number
  body: any
  headers: Headers
}

/** A server on a port and a database of its own, with the demo in it. */
export interface Serving {
  db: Database
  server: Server
  base: string
  call: (method: string, address: string, body?: unknown, headers?: Record<string, string>) => Promise<Answer>
  close: () => Promise<void>
}

export async function serving(log: Logger = pino({ level: 'silent' })): Promise<Serving> {
  const db = await freshDatabase()
  await migrate(db)
  await loadDemo(db)
  return served(db, log)
}

/** A further server on a database. */
export async function served(db: Database, log: Logger = pino({ level: 'silent' })): Promise<Serving> {
  const { name } = (await sql<{ name: string }>`select current_database() as name`.execute(db)).rows[0]!
  const changes = new Changes(urlOf(name))
  await changes.listen()
  const server = createApp({ db, log, changes, requestsPerMinute: 1e6 }).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  return {
    db,
    server,
    base,
    async call(method, address, body, headers = {}) {
      const response = await fetch(base + address, {
        method,
        headers: { 'content-type': 'application/json', ...headers },
        body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
      })
      const text = await response.text()
      return { status: response.status, body: text ? JSON.parse(text) : undefined, headers: response.headers }
    },
    async close() {
      await changes.end()
      server.close()
      server.closeAllConnections()
      await db.destroy()
    },
  }
}
