// A database for the tests alone: the one the test run started, or one made here for a run by hand.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { startDatabase } from './database.mjs'

/** @param {{ provide: (key: string, value: string) => void }} project */
export default async function setup({ provide }) {
  if (process.env.TEST_DATABASE_URL) {
    provide('databaseUrl', process.env.TEST_DATABASE_URL)
    return undefined
  }
  const scratch = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-units-'))
  chmodSync(scratch, 0o755)
  const database = await startDatabase(path.join(scratch, 'home'))
  provide('databaseUrl', database.adminUrl)
  return async () => {
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}
