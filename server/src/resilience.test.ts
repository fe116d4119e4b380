import type { AddressInfo } from 'node:net'
import type { Server } from 'node:http'
import { sql } from 'kysely'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createApp } from './app'
import { connect, type Database } from './database'
import { migrate } from './migrate'
import { freshDatabase, urlOf } from './tests/fresh-database'

let admin: Database
let db: Database
let server: Server
let base: string
const lost: Error[] = []

beforeAll(async () => {
  admin = await freshDatabase()
  await migrate(admin)
  const { name } = (await sql<{ name: string }>`select current_database() as name`.execute(admin)).rows[0]!
  db = connect(urlOf(name), (error) => lost.push(error))
  server = createApp({ db, log: pino({ level: 'silent' }) }).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(async () => {
  server.close()
  await db.destroy()
  await admin.destroy()
})

const status = async (address: string) => (await fetch(base + address)).status

describe('a server whose database goes away', () => {
  it('lives on when its idle connections are cut, and answers the next question', async () => {
    await Promise.all(Array.from({ length: 6 }, () => status('/api/shoots')))
    await cutOthers()
    await expect.poll(() => lost.length).toBeGreaterThan(0)
    // a connection that is cut while it is asked is a 503, and tried again
    await expect.poll(() => status('/api/shoots')).toBe(200)
  })
  it('says that it cannot answer now, and for how long to wait', async () => {
    const away = connect('postgres://nobody:x@127.0.0.1:9/none')
    const app = createApp({ db: away, log: pino({ level: 'silent' }) }).listen(0, '127.0.0.1')
    await new Promise((resolve) => app.once('listening', resolve))
    const address = `http://127.0.0.1:${(app.address() as AddressInfo).port}`
    const answer = await fetch(`${address}/api/shoots`)
    expect(answer.status).toBe(503)
    expect(answer.headers.get('retry-after')).toBe('2')
    expect(((await answer.json()) as { detail: string }).detail).toMatch(/does not answer just now/)
    expect((await fetch(`${address}/api/health`)).status).toBe(200)
    expect((await fetch(`${address}/api/ready`)).status).toBe(503)
    app.close()
    await away.destroy()
  })
  it('lives on when a connection is cut in the middle of a transaction', async () => {
    const broken = db.transaction().execute(async (transaction) => {
      await sql`select 1`.execute(transaction)
      await cutOthers()
      // nothing is asked while it goes: nobody but the connection itself can tell
      await new Promise((resolve) => setTimeout(resolve, 300))
      await sql`select 1`.execute(transaction)
    })
    await expect(broken).rejects.toThrow()
    await expect.poll(() => status('/api/shoots')).toBe(200)
  })
  it('gives up waiting for a row that another holds, and answers others meanwhile', async () => {
    const shoot = '01a222be-4b84-7191-bb65-889567bcf3e9'
    const put = () =>
      fetch(`${base}/api/shoots/${shoot}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ baseRevision: 0, content: { name: 'Held' } }),
      })
    expect((await put()).status).toBe(200)
    await admin.transaction().execute(async (holding) => {
      await sql`select id from shoots where id = ${shoot} for update`.execute(holding)
      const waiting = put()
      expect(await status('/api/shoots')).toBe(200)
      expect((await waiting).status).toBe(503)
    })
    expect((await put()).status).toBe(200)
  })
})

/** Cuts every connection to the database but this one. */
const cutOthers = () =>
  sql`select pg_terminate_backend(pid) from pg_stat_activity
      where datname = current_database() and pid <> pg_backend_pid()`.execute(admin)
