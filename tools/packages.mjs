// Installs what the application needs besides Node: Debian's packages through apt, npm packages from the lock file.
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { mustRun, run } from './run.mjs'
import { step, Trouble } from './say.mjs'

export const root = path.resolve(fileURLToPath(new URL('..', import.meta.url)))

export function checkNode() {
  if (Number(process.versions.node.split('.')[0]) < 20)
    throw new Trouble(`Iron Hush needs Node.js 20 or later; this is ${process.versions.node}.`)
}

const isRoot = () => process.getuid?.() === 0

/**
 * Installs a Debian package if what it brings is missing; says what to do where that is not allowed.
 * @param {string} name
 * @param {() => boolean} isThere
 * @param {string[]} flags
 */
export async function needDebian(name, isThere, flags = []) {
  if (isThere()) return
  const sudo = isRoot() ? [] : ['sudo', '-n']
  const allowed = isRoot() || (await run('sudo', ['-n', 'true']).catch(() => ({ code: 1 }))).code === 0
  const byHand = `Install Debian's package "${name}" (apt-get install ${name}) and start again.`
  if (!allowed) throw new Trouble(`${name} is missing and apt may not be used by this user. ${byHand}`)
  /** @param {string[]} args */
  const apt = (...args) =>
    run(sudo[0] ?? 'apt-get', [...sudo.slice(1), ...(sudo.length ? ['apt-get'] : []), ...args], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
  await step(`Installing ${name} from Debian's packages`, async () => {
    await apt('update', '-q')
    const { code, output } = await apt('install', '-y', '-q', ...flags, name)
    if (code !== 0 || !isThere())
      throw new Trouble(
        `${name} could not be installed through apt. ${byHand}\n${output.trim().split('\n').slice(-5).join('\n')}`,
      )
  })
}

/**
 * Folder of the newest PostgreSQL server programs, or of one major version; undefined if there is none.
 * @param {string} [major]
 */
export function postgresPrograms(major) {
  const base = '/usr/lib/postgresql'
  if (!existsSync(base)) return undefined
  const versions = readdirSync(base)
    .filter((version) => existsSync(path.join(base, version, 'bin/initdb')))
    .sort((one, other) => Number(other) - Number(one))
  const found = major ? versions.find((version) => version === major) : versions[0]
  return found && path.join(base, found, 'bin')
}

export const needPostgres = () =>
  needDebian('postgresql', () => postgresPrograms() !== undefined, ['--no-install-recommends'])
/** The circuit simulator that `npm run truth` compares with; false where it cannot be installed. */
export const needSimulator = () =>
  needDebian('ngspice', () => existsSync('/usr/bin/ngspice'), ['--no-install-recommends']).then(
    () => true,
    () => false,
  )

/**
 * A program of an installed package, called by itself: npx would take over a second to find it.
 * @param {string} name
 */
export const packageCommand = (name) => path.join(root, 'node_modules/.bin', name)

/** @param {string[]} files */
const hashOf = (files) => {
  const hash = createHash('sha256')
  for (const file of files) hash.update(file).update(readFileSync(file))
  return hash.digest('hex')
}

/** Installs npm packages from the lock file unless exactly those are installed. */
export async function needPackages() {
  const stamp = path.join(root, 'node_modules/.iron-hush')
  const wanted = hashOf([path.join(root, 'package-lock.json')])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  await step('Installing packages from the lock file', () =>
    mustRun('Installing packages', 'npm', ['ci', '--no-fund', '--no-audit'], { cwd: root }),
  )
  writeFileSync(stamp, wanted)
}

/** @type {(folder: string) => string[]} */
export const filesBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name)
    return entry.isDirectory() ? filesBelow(full) : [full]
  })

/** Builds the interface unless it was built from just these sources. */
export async function needBuild() {
  const stamp = path.join(root, 'web/dist/.built-from')
  const sources = ['core/src', 'web/src', 'web/public', 'demo'].flatMap((folder) =>
    filesBelow(path.join(root, folder)),
  )
  const more = ['web/index.html', 'web/vite.config.ts', 'web/keep-files.ts', 'package-lock.json'].map(
    (file) => path.join(root, file),
  )
  const wanted = hashOf(
    [...sources.filter((file) => !file.includes('.test.')), ...more].filter((file) =>
      statSync(file).isFile(),
    ),
  )
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  await step('Building', () =>
    mustRun('Building', packageCommand('vite'), ['build', '--logLevel', 'warn'], {
      cwd: path.join(root, 'web'),
    }),
  )
  writeFileSync(stamp, wanted)
}
