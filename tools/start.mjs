// npm start: sets up all that is needed, opens the foundry, and prints where.
import { spawn } from 'node:child_process'
import os from 'node:os'
import { certificateFor, localAddresses } from './authority.mjs'
import { dailyBackup } from './backup.mjs'
import { needBundle, serverProgram } from './bundles.mjs'
import { homeFolder, portIsFree, startDatabase } from './database.mjs'
import { lockHome } from './home-lock.mjs'
import { checkNode, needBuild, needPackages, needPostgres, root } from './packages.mjs'
import { readOptions } from './options.mjs'
import { kernelTells, keyOf } from './owner.mjs'
import { run } from './run.mjs'
import { endWith, secondsSinceStart, step, Trouble } from './say.mjs'

const { values } = readOptions(
  'npm start -- [--port 4310] [--no-open] [--share [--share-port 4311] [--behind https://sound.example]]',
  {
    port: { type: 'string', default: process.env.PORT ?? '4310' },
    'no-open': { type: 'boolean', default: false },
    share: { type: 'boolean', default: false },
    'share-port': { type: 'string' },
    behind: { type: 'string' },
  },
)

async function main() {
  checkNode()
  const port = portIn(values.port)
  const sharePort = portIn(values['share-port'] ?? String(port + 1))
  const behind = proxyIn(values.behind)
  if (!(await portIsFree(port)))
    throw new Trouble(
      `Port ${port} is taken by another program, perhaps by Iron Hush itself. End that one, or choose another: npm start -- --port ${port + 1}`,
    )
  await needPostgres()
  await needPackages()
  await Promise.all([needBuild(), needBundle('server')])
  const lock = await lockHome(homeFolder(), port)
  process.on('exit', lock.release)
  const database = await startDatabase()
  const opening = await openingOf({ port, sharePort, behind })

  const server = spawn(process.execPath, [serverProgram], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: 'production',
      DATABASE_URL: database.url,
      PORT: String(port),
      OPENING: 'told',
    },
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    ...(await serverIdentity()),
    // out of the terminal's group, so that Ctrl-C reaches this process alone and the order of ending is ours
    detached: true,
  })
  server.stdout?.pipe(process.stdout)
  server.send(opening)
  let ending = false
  const end = () => {
    if (ending) return
    ending = true
    console.log('\nEnding ...')
    server.kill('SIGTERM')
  }
  process.on('SIGINT', end)
  process.on('SIGTERM', end)
  server.on('message', (message) => {
    if (message !== 'ready') return
    const address = `http://127.0.0.1:${port}${opening.asked}`
    const [place] = opening.shared?.addresses ?? []
    if (place) console.log(`Shared with paired devices at ${place}. Menu, Share shows how to pair one.`)
    console.log(
      `Iron Hush is open at ${address} (${secondsSinceStart()} s). Ctrl-C ends it; everything is kept.`,
    )
    dailyBackup(database).then(
      (said) => said && console.log(said),
      (error) => console.log(`No backup was made today: ${error.message}`),
    )
    if (!values['no-open'] && process.stdout.isTTY) showInBrowser(address)
  })
  const watching = watch(database)
  server.on('exit', (code, signal) => {
    clearInterval(watching)
    if (signal && !ending)
      console.error(
        `The server was ended from outside (${signal}). Everything that was acknowledged is stored; start again with npm start.`,
      )
    step('Stopping the database', () => database.stop()).then(
      () => process.exit(ending ? 0 : (code ?? 1)),
      endWith,
    )
  })
}

const watchEveryMs = 2000

/**
 * Starts the database again where it was killed: the server waits for it, and what was acknowledged is there.
 * @param {Awaited<ReturnType<typeof startDatabase>>} database
 */
function watch(database) {
  let starting = false
  const look = async () => {
    if (starting || (await database.runs())) return
    starting = true
    console.log('The database was ended from outside; it is started again.')
    await startDatabase().catch((error) => console.error(error instanceof Error ? error.message : error))
    starting = false
  }
  return setInterval(() => void look(), watchEveryMs)
}

/** @param {string} text */
function portIn(text) {
  const port = Number(text)
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Trouble(`"${text}" is not a port; give a number from 1 to 65535.`)
  return port
}

/** @param {string | undefined} text */
function proxyIn(text) {
  if (text === undefined) return undefined
  const url = URL.canParse(text) ? new URL(text) : undefined
  if (url?.protocol !== 'https:' || url.pathname !== '/' || url.search)
    throw new Trouble(
      `"${text}" is not the address of a proxy; give one such as https://sound.example, without a path.`,
    )
  return url.origin
}

/**
 * Who may come in: the user who started this, and with --share or --behind devices that are paired.
 * @param {{ port: number, sharePort: number, behind: string | undefined }} ports
 */
async function openingOf({ port, sharePort, behind }) {
  const owner = process.getuid?.()
  const key = keyOf(homeFolder())
  // where the kernel says who asks, nobody needs a key
  const asked = kernelTells() || owner === undefined ? '' : `/?key=${key}`
  const access = { owner, key }
  const addresses = behind ? [behind] : []
  if (!values.share) return { access, asked, ...(behind ? { shared: { addresses } } : {}) }
  if (sharePort === port || !(await portIsFree(sharePort)))
    throw new Trouble(
      `Port ${sharePort} is taken, and devices would come in by it. Choose another: npm start -- --share --share-port ${sharePort + 1}`,
    )
  const local = localAddresses()
  if (local.length === 0 && !behind)
    throw new Trouble('This machine is not on a network. Join one, or start without --share.')
  const names = [...local, `${os.hostname().replace(/\.local$/, '')}.local`, 'localhost', '127.0.0.1']
  const { key: serverKey, certificate, authority, fingerprint } = await certificateFor(homeFolder(), names)
  return {
    access,
    asked,
    shared: {
      addresses: [...addresses, ...names.map((name) => `https://${name}:${sharePort}`)],
      authority: { certificate: authority, fingerprint },
    },
    tls: { key: serverKey, cert: certificate, port: sharePort },
  }
}

/**
 * Who the server runs as: nobody in particular where this start was run by root, since it needs no rights but to read
 * its own files.
 */
async function serverIdentity() {
  if (process.getuid?.() !== 0) return {}
  /** @param {string} flag */
  const id = async (flag) => Number((await run('id', [flag, 'nobody'])).output.trim())
  const nobody = { uid: await id('-u'), gid: await id('-g') }
  const readable = await run('test', ['-r', serverProgram], nobody)
  if (nobody.uid && readable.code === 0) return nobody
  console.log(`The server runs as root: the user "nobody" may not read ${root}.`)
  return {}
}

/**
 * Shows the page in the browser of the desktop, where there is one.
 * @param {string} address
 */
function showInBrowser(address) {
  const desktop = process.env.DISPLAY || process.env.WAYLAND_DISPLAY
  const opener = process.platform === 'darwin' ? 'open' : desktop ? 'xdg-open' : undefined
  if (!opener) return
  const child = spawn(opener, [address], { stdio: 'ignore', detached: true })
  child.on('error', () => undefined)
  child.unref()
}

main().catch(endWith)
