// npm start: sets up all that is needed, opens the foundry, and prints where.
import { spawn } from 'node:child_process'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { homeFolder, portIsFree, startDatabase } from './database.mjs'
import { lockHome } from './home-lock.mjs'
import { checkNode, needBuild, needPackages, needPostgres, root } from './packages.mjs'
import { endWith, secondsSinceStart, step, Trouble } from './say.mjs'

const { values } = parseArgs({
  options: {
    port: { type: 'string', default: process.env.PORT ?? '4310' },
    'no-open': { type: 'boolean', default: false },
  },
})

async function main() {
  checkNode()
  const port = Number(values.port)
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Trouble(`"${values.port}" is not a port; give a number from 1 to 65535.`)
  if (!(await portIsFree(port)))
    throw new Trouble(
      `Port ${port} is taken by another program, perhaps by Iron Hush itself. End that one, or choose another: npm start -- --port ${port + 1}`,
    )
  await needPostgres()
  await needPackages()
  await needBuild()
  const lock = await lockHome(homeFolder(), port)
  process.on('exit', lock.release)
  const database = await startDatabase()

  const server = spawn(process.execPath, ['--import', 'tsx', path.join(root, 'server/src/main.ts')], {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', DATABASE_URL: database.url, PORT: String(port) },
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    // out of the terminal's group, so that Ctrl-C reaches this process alone and the order of ending is ours
    detached: true,
  })
  server.stdout?.pipe(process.stdout)
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
    const address = `http://127.0.0.1:${port}`
    console.log(
      `Iron Hush is open at ${address} (${secondsSinceStart()} s). Ctrl-C ends it; everything is kept.`,
    )
    if (!values['no-open'] && process.stdout.isTTY) showInBrowser(address)
  })
  server.on('exit', (code, signal) => {
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
