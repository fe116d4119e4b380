import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { chmodSync } from 'node:fs'

const root = path.resolve(import.meta.dirname, '..')

/** The application as `npm start` runs it, in a folder of its own. It can be ended and started again. */
export class Application {
  readonly home: string
  output = ''
  private child: ChildProcess | undefined

  /** @param name tells the homes of several stories apart */
  constructor(
    readonly port: number,
    name: string,
  ) {
    const given = process.env.IRON_HUSH_HOME
    this.home = given ? `${given}-${name}` : mkdtempSync(path.join(os.tmpdir(), `iron-hush-${name}-`))
    if (!given) chmodSync(this.home, 0o755)
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
