// The command line as one file: built from its sources when they change, for reading them one by one takes seconds.
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, renameSync, statSync } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { filesBelow, root } from './packages.mjs'

const dist = path.join(root, 'cli/dist')
const built = path.join(dist, 'hush.mjs')
/** What is built of what: the command, and a thread that it may begin. */
const parts = { 'ear.worker.mjs': 'ear.worker.ts', 'hush.mjs': 'main.ts' }
const stamp = path.join(dist, '.built-from')

/** What the command line is made of, by name, size and time: to read it all would take as long as to run it. */
function sources() {
  const hash = createHash('sha256')
  const files = ['core/src', 'cli/src'].flatMap((folder) => filesBelow(path.join(root, folder)))
  for (const file of [...files, path.join(root, 'package-lock.json')]) {
    if (file.includes('.test.')) continue
    const { size, mtimeMs } = statSync(file)
    hash.update(`${file} ${size} ${mtimeMs}\n`)
  }
  return hash.digest('hex')
}

/** Builds it if need be. @returns {Promise<string>} its address, for import */
export async function commandModule() {
  const now = sources()
  if (!existsSync(stamp) || !existsSync(built) || readFileSync(stamp, 'utf8') !== now) await buildTo(now)
  return pathToFileURL(built).href
}

/** @param {string} from */
async function buildTo(from) {
  const { build } = await import('esbuild')
  const { writeFileSync } = await import('node:fs')
  for (const [name, source] of Object.entries(parts)) {
    const part = path.join(dist, `${name}.${process.pid}.mjs`)
    await build({
      entryPoints: [path.join(root, 'cli/src', source)],
      outfile: part,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      logLevel: 'silent',
      // some packages call require, which a module has not
      banner: {
        js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url)",
      },
    })
    // whole or not at all: two may build at once
    renameSync(part, path.join(dist, name))
  }
  writeFileSync(stamp, from)
}
