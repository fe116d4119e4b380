import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { pino } from 'pino'
import { createApp } from './app'
import { connect } from './database'
import { completeDemoGear, loadDemo } from './demo'
import { alone, DatabaseTooNew, migrate } from './migrate'

const root = path.resolve(fileURLToPath(new URL('../..', import.meta.url)))
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' })
const { DATABASE_URL, PORT = '4310' } = process.env

/** Longest that a request may take to arrive, ms. */
const slowestRequestMs = 10_000

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
  const app = createApp({ db, log, web: path.join(root, 'web/dist') })
  const server = app.listen(Number(PORT), '127.0.0.1', () => process.send?.('ready'))
  // a request that does not come to its end holds nothing up for long
  server.headersTimeout = slowestRequestMs
  server.requestTimeout = slowestRequestMs
  server.on('error', (error) => fail(`Port ${PORT} cannot be used: ${error.message}.`))
  const end = () => {
    server.close(() => void db.destroy().then(() => process.exit(0)))
    server.closeIdleConnections()
    setTimeout(() => server.closeAllConnections(), 2000).unref()
  }
  process.on('SIGTERM', end)
  process.on('SIGINT', end)
  // when whoever started us is gone, nobody is left to stop us
  process.on('disconnect', end)
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
