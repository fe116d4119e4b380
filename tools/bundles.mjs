// Programs as one file each: built from their sources when these change, for reading them one by one takes seconds.
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { filesBelow, root } from './packages.mjs'

/** Bundles: source, destination and kind. A program with what it or its tools start, or rooms of core. */
const programs = {
  cli: {
    to: 'cli/dist',
    parts: { 'ear.worker.mjs': 'cli/src/ear.worker.ts', 'hush.mjs': 'cli/src/main.ts' },
  },
  server: {
    to: 'server/dist',
    parts: { 'prove.mjs': 'server/src/prove.ts', 'main.mjs': 'server/src/main.ts' },
  },
  // imported by browser stories (e2e/stories.tsconfig.json); below node_modules, where their runner transforms nothing
  stories: {
    to: 'node_modules/.cache/iron-hush',
    parts: Object.fromEntries(
      ['contract', 'media', 'model', 'signals', 'tests'].map((room) => [
        `${room}.mjs`,
        `core/src/${room}/index.ts`,
      ]),
    ),
  },
}

/** @typedef {keyof typeof programs} Program */

/** @param {Program} program @param {string} part */
const builtAt = (program, part) => path.join(root, programs[program].to, part)

/** The server, to be started by node. */
export const serverProgram = builtAt('server', 'main.mjs')
/** Reads everything in a restored database once. */
export const proveProgram = builtAt('server', 'prove.mjs')
/** The command line, to be imported. */
export const commandProgram = builtAt('cli', 'hush.mjs')

/**
 * Fingerprint of a program's sources by name, size and time: reading them all would take as long as running it.
 * @param {Program} program
 */
function sources(program) {
  const hash = createHash('sha256')
  const folders = new Set([
    'core/src',
    ...Object.values(programs[program].parts).map((source) => path.dirname(source)),
  ])
  const files = [...folders].flatMap((folder) => filesBelow(path.join(root, folder)))
  for (const file of [...files, path.join(root, 'package-lock.json'), fileURLToPath(import.meta.url)]) {
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
  const parts = Object.entries(programs[program].parts)
  const stamp = builtAt(program, '.built-from')
  const isThere = parts.every(([name]) => existsSync(builtAt(program, name)))
  if (isThere && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  const { build } = await import('esbuild')
  for (const [name, source] of parts) {
    const part = builtAt(program, `${name}.${process.pid}.mjs`)
    await build({
      entryPoints: [path.join(root, source)],
      outfile: part,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      logLevel: 'silent',
      // read faster; names stay as they are, for stack traces
      minifyWhitespace: true,
      minifySyntax: true,
      // several rooms in one process share their packages
      packages: program === 'stories' ? 'external' : 'bundle',
      // the faster of two drivers, which pg takes where it is installed
      external: ['pg-native'],
      // some packages call require, which a module has not
      banner: {
        js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url)",
      },
    })
    // whole or not at all: two may build at once
    renameSync(part, builtAt(program, name))
  }
  writeFileSync(stamp, now)
}
