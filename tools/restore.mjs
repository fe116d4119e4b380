// npm run restore FILE: a backup into a database of its own, proved, and only then taken into use. The one before is kept.
import { spawn } from 'node:child_process'
import { createReadStream } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { factsOf, provenBackup } from './backup-file.mjs'
import {
  addressesOf,
  asking,
  homeFolder,
  inDatabase,
  settingsOf,
  startDatabase,
  useDatabase,
} from './database.mjs'
import { needBundle, proveProgram } from './bundles.mjs'
import { lockHome } from './home-lock.mjs'
import { readOptions } from './options.mjs'
import { checkNode, needPackages, needPostgres, root } from './packages.mjs'
import { run } from './run.mjs'
import { endWith, step, Trouble } from './say.mjs'

/**
 * Restores a backup into a home. Nothing of what is there changes before the backup has been proved; then the application
 * is pointed at the new database, and the one before stays under its name.
 * @param {string} file
 * @param {string} home
 */
export async function restore(file, home) {
  const { header, dumpFrom } = await step('Proving the backup', () => provenBackup(file))
  const database = await startDatabase(home)
  const settings = settingsOf(home)
  const name = `iron_hush_${Date.now().toString(36)}`
  const admin = addressesOf(settings).adminUrl
  const own = addressesOf({ ...settings, database: name }).url
  try {
    await asking(admin, (ask) => ask(`create database ${name} owner iron_hush`))
    try {
      await step('Reading it into a database of its own', () => filled(database.bin, own, file, dumpFrom))
      await refuseOther(own, header)
      const proved = await step('Reading everything in it once', () => proveIn(own))
      useDatabase(home, name)
      return { header, before: settings.database, ...proved }
    } catch (error) {
      await asking(admin, (ask) => ask(`drop database if exists ${name} with (force)`))
      throw error
    }
  } finally {
    if (!database.wasRunning) await database.stop()
  }
}

/**
 * @param {string} bin
 * @param {string} url
 * @param {string} file
 * @param {number} dumpFrom
 */
function filled(bin, url, file, dumpFrom) {
  return new Promise((resolve, reject) => {
    const args = ['--no-owner', '--no-privileges', '--exit-on-error', '--single-transaction', '-d', url]
    const child = spawn(path.join(bin, 'pg_restore'), args, { stdio: ['pipe', 'ignore', 'pipe'] })
    let said = ''
    child.stderr.on('data', (part) => (said += part))
    // it ends before all was read where it refuses; what it says then counts
    child.stdin.on('error', () => undefined)
    createReadStream(file, { start: dumpFrom }).on('error', reject).pipe(child.stdin)
    child.on('error', reject)
    child.on('close', (code) =>
      code === 0
        ? resolve(undefined)
        : reject(
            new Trouble(
              `${file} cannot be restored: ${said.trim().split('\n')[0]}. Nothing was changed; take another backup.`,
            ),
          ),
    )
  })
}

/**
 * @param {string} url
 * @param {import('./backup-file.mjs').Header} header
 */
async function refuseOther(url, { migrations, counts }) {
  const found = await asking(url, factsOf)
  if (JSON.stringify(found) !== JSON.stringify({ migrations, counts }))
    throw new Trouble(
      'The restored database does not hold what the backup says it holds. Nothing was changed; take another backup.',
    )
}

/**
 * Brings it to this release and reads everything in it; the server's own code does it.
 * @param {string} url
 * @returns {Promise<{ scenes: number, unreadable: number }>}
 */
async function proveIn(url) {
  await needBundle('server')
  const { code, output, said } = await run(process.execPath, [proveProgram], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: url },
  })
  if (code !== 0) throw new Trouble(`The backup cannot be used: ${output.trim().split('\n').at(-1)}`)
  // a warning of the runtime's own goes to standard error
  return JSON.parse(said.trim().split('\n').at(-1) ?? '{}')
}

/**
 * Drops what earlier restores have left: databases of the application that it does not use.
 * @param {string} home
 */
async function forget(home) {
  const database = await startDatabase(home)
  const { adminUrl, database: used } = addressesOf(settingsOf(home))
  try {
    return await asking(adminUrl, async (ask) => {
      const all = await ask(`select datname as name from pg_database where datname like 'iron\\_hush%'`)
      const old = all.map(({ name }) => name).filter((name) => name !== used)
      for (const name of old) await ask(`drop database ${name} with (force)`)
      // releases before this one worked in the database that every PostgreSQL has: its tables are dropped, not itself
      if (used !== 'postgres' && (await isOurs(adminUrl))) {
        await asking(inDatabase(adminUrl, 'postgres'), (inside) =>
          inside('drop schema public cascade; create schema public'),
        )
        old.push('postgres')
      }
      return old
    })
  } finally {
    if (!database.wasRunning) await database.stop()
  }
}

const isOurs = (/** @type {string} */ url) =>
  asking(url, async (ask) => (await ask(`select to_regclass('public.migrations') as ours`))[0].ours !== null)

const use = 'npm run restore FILE, or npm run restore -- --forget to drop what was kept from before'

async function main() {
  const { values, positionals } = readOptions(use, { forget: { type: 'boolean', default: false } }, 1)
  const [file] = positionals
  if (values.forget === Boolean(file)) throw new Trouble(`Name one backup, or say --forget.\nUse: ${use}`)
  checkNode()
  await needPostgres()
  await needPackages()
  const lock = await lockHome(homeFolder(), 0)
  process.on('exit', lock.release)
  if (!file) {
    const dropped = await forget(homeFolder())
    console.log(dropped.length ? `Dropped: ${dropped.join(', ')}.` : 'There was nothing kept from before.')
    return
  }
  const { header, before, scenes, unreadable } = await restore(path.resolve(file), homeFolder())
  console.log(
    `Restored as of ${header.madeAt}: ${scenes} scenes, ${header.counts.takes} takes, ${header.counts.gear} things. What was there before is kept as the database ${before}; npm run restore -- --forget drops it.`,
  )
  if (unreadable)
    console.log(`${unreadable} stored things cannot be read by this release; the page shows them.`)
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) main().catch(endWith)
