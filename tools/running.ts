import { type ChildProcess, spawn } from 'node:child_process'
import { chmodSync, mkdtempSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'

const root = path.resolve(import.meta.dirname, '..')

/** The application as `npm start` runs it, in a separate folder. It can be stopped and started again. */
export class Application {
  readonly home: string
  output = ''
  private child: ChildProcess | undefined

  /** @param home left out: the one that the environment names, or a new one */
  constructor(
    readonly port: number,
    home?: string,
  ) {
    const given = process.env.IRON_HUSH_HOME
    const beside = given ? `${given}-${port}` : undefined
    this.home = home ?? beside ?? mkdtempSync(path.join(os.tmpdir(), 'iron-hush-story-'))
    if (!home && !beside) chmodSync(this.home, 0o755)
  }

  /** Whether the start command runs. */
  get runs(): boolean {
    return this.child !== undefined && this.child.exitCode === null && this.child.signalCode === null
  }

  /** Of the start command. */
  get pid(): number | undefined {
    return this.child?.pid
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`
  }

  async start(...options: string[]): Promise<void> {
    const args = ['tools/start.mjs', '--port', String(this.port), ...options]
    const child = spawn(process.execPath, args, {
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
    if (!child || !this.runs) return Promise.resolve(child?.exitCode ?? null)
    return new Promise((resolve) => {
      child.on('exit', resolve)
      child.kill(signal)
    })
  }
}
