import http from 'node:http'
import https from 'node:https'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { pino } from 'pino'
import type { Access } from './access/guard'
import { type Shared, Sharer } from './access/sharing'
import { createApp } from './app'
import { Changes } from './changes'
import { connect } from './database'
import { completeDemoGear, loadDemo } from './demo'
import { limits } from './limits'
import { alone, DatabaseTooNew, migrate } from './migrate'

const root = path.resolve(fileURLToPath(new URL('../..', import.meta.url)))
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' })
const { DATABASE_URL, PORT = '4310', REQUESTS_PER_MINUTE } = process.env

async function main(): Promise<void> {
  if (!DATABASE_URL) throw new Error('DATABASE_URL is not set; start with npm start.')
  const db = connect(DATABASE_URL, (error) =>
    log.warn({ reason: error.message }, 'a database connection was lost'),
  )
  await alone(db, async () => {
    await migrate(db)
    await loadDemo(db)
    await completeDemoGear(db)
  })
  const changes = new Changes(DATABASE_URL, (error) =>
    log.warn({ reason: error.message }, 'the connection that tells of changes was lost'),
  )
  await changes.listen()
  const { access, shared, tls } = await opening()
  const sharer = new Sharer(shared)
  const app = createApp({
    db,
    log,
    changes,
    access,
    sharer,
    web: path.join(root, 'web/dist'),
    requestsPerMinute: REQUESTS_PER_MINUTE ? Number(REQUESTS_PER_MINUTE) : undefined,
  })
  const servers = [await listening(http.createServer(limits, app), Number(PORT), '127.0.0.1')]
  if (tls) servers.push(await listening(https.createServer({ ...limits, ...tls }, app), tls.port, '0.0.0.0'))
  process.send?.('ready')
  const end = () => {
    void changes.end()
    const closed = servers.map((server) => new Promise((resolve) => server.close(resolve)))
    for (const server of servers) {
      server.closeIdleConnections()
      setTimeout(() => server.closeAllConnections(), 2000).unref()
    }
    void Promise.all(closed)
      .then(() => db.destroy())
      .then(() => process.exit(0))
  }
  process.on('SIGTERM', end)
  process.on('SIGINT', end)
  // when the process that started this one is gone, nobody is left to stop us
  process.on('disconnect', end)
}

/** Resolves when a server answers. */
function listening<S extends http.Server>(server: S, port: number, host: string): Promise<S> {
  server.on('error', (error) => fail(`Port ${port} cannot be used: ${error.message}.`))
  return new Promise((resolve) => server.listen(port, host, () => resolve(server)))
}

/** Who may come in, as the start command says; by itself this server answers anyone on this machine. */
function opening(): Promise<Opening> {
  if (process.env.OPENING !== 'told') return Promise.resolve({ access: {} })
  return new Promise((resolve) => process.once('message', (told) => resolve(told as Opening)))
}

interface Opening {
  access: Access
  shared?: Shared
  /** For a second server in the local network. */
  tls?: { key: string; cert: string; port: number }
}

function fail(sentence: string): never {
  console.error(sentence)
  process.exit(1)
}

main().catch((error: unknown) => {
  if (error instanceof DatabaseTooNew) fail(error.message)
  console.error(error)
  process.exit(1)
})
