// Programs as one file each: built from their sources when these change, for reading them one by one takes seconds.
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { filesBelow, root } from './packages.mjs'

/** What is built of what: a program, and what else it or its tools start. */
const programs = {
  cli: { 'ear.worker.mjs': 'ear.worker.ts', 'hush.mjs': 'main.ts' },
  server: { 'prove.mjs': 'prove.ts', 'main.mjs': 'main.ts' },
}

/** @typedef {keyof typeof programs} Program */

/** @param {Program} program */
const folderOf = (program) => path.join(root, program, 'dist')

/** The server, to be started by node. */
export const serverProgram = path.join(folderOf('server'), 'main.mjs')
/** What reads everything in a restored database once. */
export const proveProgram = path.join(folderOf('server'), 'prove.mjs')
/** The command line, to be imported. */
export const commandProgram = path.join(folderOf('cli'), 'hush.mjs')

/**
 * What a program is made of, by name, size and time: to read it all would take as long as to run it.
 * @param {Program} program
 */
function sources(program) {
  const hash = createHash('sha256')
  const files = ['core/src', `${program}/src`].flatMap((folder) => filesBelow(path.join(root, folder)))
  for (const file of [...files, path.join(root, 'package-lock.json')]) {
    if (file.includes('.test.')) continue
    const { size, mtimeMs } = statSync(file)
    hash.update(`${file} ${size} ${mtimeMs}\n`)
  }
  return hash.digest('hex')
}

/**
 * Builds a program if need be.
 * @param {Program} program
 */
export async function needBundle(program) {
  const now = sources(program)
  const folder = folderOf(program)
  const parts = Object.entries(programs[program])
  const stamp = path.join(folder, '.built-from')
  const isThere = parts.every(([name]) => existsSync(path.join(folder, name)))
  if (isThere && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  const { build } = await import('esbuild')
  for (const [name, source] of parts) {
    const part = path.join(folder, `${name}.${process.pid}.mjs`)
    await build({
      entryPoints: [path.join(root, program, 'src', source)],
      outfile: part,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      logLevel: 'silent',
      // names in what goes wrong are those of the sources
      keepNames: true,
      // the faster of two drivers, which pg takes where it is installed
      external: ['pg-native'],
      // some packages call require, which a module has not
      banner: {
        js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url)",
      },
    })
    // whole or not at all: two may build at once
    renameSync(part, path.join(folder, name))
  }
  writeFileSync(stamp, now)
}
