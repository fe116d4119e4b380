// npm run backup [FILE]: everything that is stored, as it is now, in one file. The application may be running.
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statfsSync, statSync } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { writeBackup } from './backup-file.mjs'
import { homeFolder, startDatabase } from './database.mjs'
import { readOptions } from './options.mjs'
import { checkNode, needPackages, needPostgres, root } from './packages.mjs'
import { endWith, Trouble } from './say.mjs'

export const releaseOf = () => JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8')).version

/** Where the daily ones lie. */
export const backupFolder = (/** @type {string} */ home) => path.join(home, 'backups')
const daily = /^daily-\d{4}-\d\d-\d\d\.hush-backup$/
const keptDaily = 7
/** Free space to be left on the disk, bytes, and the size allowed relative to the last backup. */
const leastFreeBytes = 500e6
const growth = 2

/**
 * Makes today's backup if there is none and there is room, and keeps the last seven. Says what it did, or nothing.
 * @param {{ home: string, bin: string, ownUrl: string }} database
 * @param {Date} [now]
 */
export async function dailyBackup({ home, bin, ownUrl }, now = new Date()) {
  const folder = backupFolder(home)
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = path.join(folder, `daily-${now.toISOString().slice(0, 10)}.hush-backup`)
  if (existsSync(file)) return undefined
  // left by an interrupted backup
  for (const name of readdirSync(folder)) if (/\.(dump|new)$/.test(name)) rmSync(path.join(folder, name))
  const last = dailyOnes(folder).at(-1)
  const { bavail, bsize } = statfsSync(folder)
  const wanted = leastFreeBytes + growth * (last ? statSync(path.join(folder, last)).size : 0)
  if (bavail * bsize < wanted)
    return `No backup was made today: ${Math.round((bavail * bsize) / 1e6)} MB are free, and ${Math.round(wanted / 1e6)} MB are wanted.`
  await writeBackup({ bin, url: ownUrl, file, release: releaseOf() })
  for (const old of dailyOnes(folder).slice(0, -keptDaily)) rmSync(path.join(folder, old))
  return undefined
}

const dailyOnes = (/** @type {string} */ folder) =>
  readdirSync(folder)
    .filter((name) => daily.test(name))
    .sort()

async function main() {
  const [given] = readOptions('npm run backup [FILE]', {}, 1).positionals
  checkNode()
  await needPostgres()
  await needPackages()
  const now = new Date().toISOString().slice(0, 19).replaceAll(':', '')
  const file = path.resolve(given ?? `iron-hush-${now}.hush-backup`)
  if (existsSync(file))
    throw new Trouble(`${file} is there already. Choose another name; nothing was written.`)
  const database = await startDatabase(homeFolder())
  try {
    const { counts, bytes } = await writeBackup({
      bin: database.bin,
      url: database.ownUrl,
      file,
      release: releaseOf(),
    })
    console.log(
      `${file}: ${counts.shoots} shoots, ${counts.scenes} scenes, ${counts.takes} takes, ${counts.proofs} measurements, ${counts.gear} things; ${(bytes / 1e6).toFixed(1)} MB.`,
    )
  } finally {
    if (!database.wasRunning) await database.stop()
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) main().catch(endWith)
