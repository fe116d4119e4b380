// npm run dev: database, server and pages for development; each is loaded again when its files change.
import { spawn } from 'node:child_process'
import path from 'node:path'
import { startDatabase } from './database.mjs'
import { checkNode, needPackages, needPostgres, packageCommand, root } from './packages.mjs'
import { endWith, step } from './say.mjs'

const port = 4310

async function main() {
  checkNode()
  await needPostgres()
  await needPackages()
  const database = await startDatabase()
  const children = [
    spawn(process.execPath, ['--watch', '--import', 'tsx', path.join(root, 'server/src/main.ts')], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: database.url, PORT: String(port) },
      stdio: 'inherit',
      detached: true,
    }),
    // the page asks the server above through the proxy of web/vite.config.ts
    spawn(packageCommand('vite'), [], { cwd: path.join(root, 'web'), stdio: 'inherit', detached: true }),
  ]
  let ending = false
  const end = async () => {
    if (ending) return
    ending = true
    console.log('\nEnding ...')
    const gone = children.map((child) => new Promise((resolve) => child.once('exit', resolve)))
    for (const child of children)
      if (child.exitCode === null && child.pid !== undefined) process.kill(-child.pid, 'SIGTERM')
    await Promise.all(gone)
    await step('Stopping the database', () => database.stop())
    process.exit(0)
  }
  process.on('SIGINT', () => void end())
  process.on('SIGTERM', () => void end())
  for (const child of children) child.once('exit', () => void end())
}

main().catch(endWith)
