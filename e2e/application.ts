import { type ChildProcess, spawn } from 'node:child_process'
import { chmodSync, mkdtempSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { test as plain } from '@playwright/test'
import { asShipped } from './as-shipped'

const root = path.resolve(import.meta.dirname, '..')
const firstPort = Number(process.env.E2E_PORT ?? 4399)

/** The application as `npm start` runs it, in a folder of its own. It can be ended and started again. */
export class Application {
  readonly home: string
  output = ''
  private child: ChildProcess | undefined

  constructor(readonly port: number) {
    const given = process.env.IRON_HUSH_HOME
    this.home = given ? `${given}-${port}` : mkdtempSync(path.join(os.tmpdir(), 'iron-hush-story-'))
    if (!given) chmodSync(this.home, 0o755)
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`
  }

  async start(): Promise<void> {
    const child = spawn(process.execPath, ['tools/start.mjs', '--port', String(this.port)], {
      cwd: root,
      env: { ...process.env, IRON_HUSH_HOME: this.home },
    })
    this.child = child
    this.output = ''
    await new Promise<void>((resolve, reject) => {
      const read = (part: Buffer) => {
        this.output += part.toString()
        if (this.output.includes('Iron Hush is open')) resolve()
      }
      child.stdout.on('data', read)
      child.stderr.on('data', read)
      child.on('exit', (code) => reject(new Error(`ended with ${code}: ${this.output}`)))
    })
  }

  /** As Ctrl-C does. Resolves with the exit code. */
  end(signal: NodeJS.Signals = 'SIGINT'): Promise<number | null> {
    const child = this.child
    if (!child || child.exitCode !== null) return Promise.resolve(child?.exitCode ?? null)
    return new Promise((resolve) => {
      child.on('exit', resolve)
      child.kill(signal)
    })
  }
}

/** Each worker has an application of its own, and each test finds it as it ships. */
export const test = plain.extend<{ shipped: null }, { application: Application }>({
  application: [
    async ({}, use, { workerIndex }) => {
      const application = new Application(firstPort + workerIndex)
      await application.start()
      await use(application)
      await application.end()
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  baseURL: ({ application }, use) => use(application.address),
  shipped: [
    async ({ application }, use) => {
      await asShipped(application.address)
      await use(null)
    },
    { auto: true },
  ],
})
