// A backup: a line that names the format, a line of JSON that says what is in it, and a dump of PostgreSQL's own.
import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  createReadStream,
  createWriteStream,
  openSync,
  closeSync,
  readSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { Trouble } from './say.mjs'
import { asking } from './database.mjs'

const formatLine = 'IRON-HUSH-BACKUP 1\n'
const longestHeader = 64_000

/**
 * What the second line says: which release made it and when, how far its tables were brought, how many rows each had, and
 * the size and SHA-256 of the dump behind it.
 * @typedef {{ release: string, madeAt: string, migrations: string[], counts: Record<string, number>, bytes: number, sha256: string }} Header
 */

/**
 * Writes a backup of a database as it is at one moment, whole or not at all.
 * @param {{ bin: string, url: string, file: string, release: string }} what
 * @returns {Promise<Header>}
 */
export async function writeBackup({ bin, url, file, release }) {
  const [dump, whole] = [`${file}.dump`, `${file}.new`]
  try {
    const header = await asking(url, async (ask) => {
      await ask('begin isolation level repeatable read read only')
      const [{ snapshot }] = await ask('select pg_export_snapshot() as snapshot')
      const facts = await factsOf(ask)
      await dumped(bin, url, snapshot, dump)
      return { release, madeAt: new Date().toISOString(), ...facts, ...(await sumOf(dump)) }
    })
    const out = createWriteStream(whole, { mode: 0o600 })
    out.write(formatLine)
    out.write(`${JSON.stringify(header)}\n`)
    await pipeline(createReadStream(dump), out)
    renameSync(whole, file)
    return header
  } catch (error) {
    rmSync(whole, { force: true })
    throw /ENOSPC/.test(String(error))
      ? new Trouble(`The disk is too full for a backup at ${file}. Make room, or choose another place.`)
      : error
  } finally {
    rmSync(dump, { force: true })
  }
}

/**
 * How far the tables were brought, and how many rows each has.
 * @param {(sql: string) => Promise<any[]>} ask
 */
export async function factsOf(ask) {
  const migrations = (await ask('select name from migrations order by name')).map(({ name }) => name)
  /** @type {Record<string, number>} */
  const counts = {}
  for (const { name } of await ask(
    `select tablename as name from pg_tables where schemaname = 'public' order by tablename`,
  ))
    counts[name] = (await ask(`select count(*)::integer as count from public.${name}`))[0].count
  return { migrations, counts }
}

/**
 * @param {string} bin
 * @param {string} url
 * @param {string} snapshot
 * @param {string} file
 */
function dumped(bin, url, snapshot, file) {
  return new Promise((resolve, reject) => {
    const args = ['-Fc', '--no-owner', '--no-privileges', `--snapshot=${snapshot}`, '-f', file, '-d', url]
    const child = spawn(path.join(bin, 'pg_dump'), args, { stdio: ['ignore', 'ignore', 'pipe'] })
    let said = ''
    child.stderr.on('data', (part) => (said += part))
    child.on('error', reject)
    child.on('close', (code) =>
      code === 0 ? resolve(undefined) : reject(new Error(`pg_dump ended with ${code}: ${said.trim()}`)),
    )
  })
}

/**
 * @param {string} file
 * @param {number} [from]
 */
async function sumOf(file, from = 0) {
  const hash = createHash('sha256')
  for await (const part of createReadStream(file, { start: from })) hash.update(part)
  return { bytes: statSync(file).size - from, sha256: hash.digest('hex') }
}

/**
 * Reads what a backup says of itself and proves it: cut, changed or of another kind it ends in a sentence.
 * @param {string} file
 * @returns {Promise<{ header: Header, dumpFrom: number }>}
 */
export async function provenBackup(file) {
  const { header, dumpFrom } = headerOf(file)
  const { bytes, sha256 } = await sumOf(file, dumpFrom)
  if (bytes !== header.bytes)
    throw new Trouble(
      `${file} is cut short: ${bytes} of ${header.bytes} bytes are there. Nothing was changed; take another backup.`,
    )
  if (sha256 !== header.sha256)
    throw new Trouble(
      `${file} is damaged: its checksum is not the one it was made with. Nothing was changed; take another backup.`,
    )
  return { header, dumpFrom }
}

/**
 * @param {string} file
 * @returns {{ header: Header, dumpFrom: number }}
 */
function headerOf(file) {
  const head = Buffer.alloc(longestHeader)
  let read = 0
  try {
    const handle = openSync(file, 'r')
    read = readSync(handle, head, 0, longestHeader, 0)
    closeSync(handle)
  } catch (error) {
    throw new Trouble(`${file} cannot be read: ${error instanceof Error ? error.message : String(error)}.`)
  }
  const end = head.indexOf('\n', formatLine.length)
  if (head.subarray(0, formatLine.length).toString() !== formatLine || end < 0 || end > read)
    throw new Trouble(`${file} is no backup of Iron Hush. Nothing was changed.`)
  try {
    return { header: JSON.parse(head.subarray(formatLine.length, end).toString()), dumpFrom: end + 1 }
  } catch {
    throw new Trouble(`${file} is damaged in its head. Nothing was changed; take another backup.`)
  }
}
