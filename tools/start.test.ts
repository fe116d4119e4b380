import { spawn, type ChildProcess } from 'node:child_process'
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import pg from 'pg'
import { isLong } from '../core/src/tests/form'
import { asking, portIsFree, startDatabase } from './database.mjs'
import { lockHome } from './home-lock.mjs'

const start = path.resolve(import.meta.dirname, 'start.mjs')
const scratch = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-start-'))
chmodSync(scratch, 0o755)
afterAll(() => rmSync(scratch, { recursive: true, force: true }))

let next = 0
const freshHome = () => path.join(scratch, `home-${next++}`)

/** Runs the start command to its end; for starts that are expected to fail. */
function starting(home: string, ...args: string[]): Promise<{ code: number | null; said: string }> {
  return new Promise((resolve) => {
    const child: ChildProcess = spawn(process.execPath, [start, ...args], {
      env: { ...process.env, IRON_HUSH_HOME: home },
    })
    let said = ''
    child.stdout?.on('data', (part: Buffer) => (said += part.toString()))
    child.stderr?.on('data', (part: Buffer) => (said += part.toString()))
    child.on('close', (code) => resolve({ code, said }))
  })
}

/** Every file below a folder with its size: what must not change. */
const inventory = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    // the server's own lock file comes and goes with it
    .filter((file) => !file.endsWith('postmaster.pid'))
    .map((file) => `${file} ${statSync(path.join(folder, file)).size}`)
    .sort()

describe('npm start, when it cannot', () => {
  it('says that a port is taken and how to choose another', async () => {
    const other = net.createServer()
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve))
    const { port } = other.address() as net.AddressInfo
    const home = freshHome()
    const { code, said } = await starting(home, '--port', String(port))
    expect(code).toBe(1)
    expect(said.trim()).toBe(
      `Port ${port} is taken by another program, perhaps by Iron Hush itself. End that one, or choose another: npm start -- --port ${port + 1}`,
    )
    expect(existsSync(home)).toBe(false)
    other.close()
  })
  it('refuses what is no port', async () => {
    expect((await starting(freshHome(), '--port', 'many')).said).toMatch(/"many" is not a port/)
  })
  it.each([
    [
      'a folder that is no database',
      (cluster: string) => writeFileSync(path.join(cluster, 'notes.txt'), 'mine'),
      /is not a database .* nothing was changed/,
    ],
    [
      'a database of a PostgreSQL that is not here',
      (cluster: string) => writeFileSync(path.join(cluster, 'PG_VERSION'), '9\n'),
      /made by PostgreSQL 9, which is not installed/,
    ],
    [
      'a database whose settings are lost',
      (cluster: string) => writeFileSync(path.join(cluster, 'PG_VERSION'), '15\n'),
      /has lost its database\.json/,
    ],
  ])('leaves %s as it is and says what to do', async (_, make, expected) => {
    const home = freshHome()
    mkdirSync(path.join(home, 'cluster'), { recursive: true })
    make(path.join(home, 'cluster'))
    const before = inventory(home)
    await expect(startDatabase(home)).rejects.toThrow(expected)
    expect(inventory(home)).toEqual(before)
  })
  it('leaves a broken cluster as it is and quotes its complaint', { timeout: 60_000 }, async () => {
    const home = freshHome()
    const database = await startDatabase(home)
    await database.stop()
    const control = path.join(home, 'cluster/global/pg_control')
    writeFileSync(control, readFileSync(control).subarray(0, 100))
    const before = inventory(path.join(home, 'cluster'))
    await expect(startDatabase(home)).rejects.toThrow(/does not start: .+ Its files were left as they are/)
    expect(inventory(path.join(home, 'cluster'))).toEqual(before)
  })
})

describe('the database', () => {
  it(
    'is made once, listens on loopback alone, and comes back after its server was killed',
    { timeout: 60_000 },
    async () => {
      const home = freshHome()
      const first = await startDatabase(home)
      const port = Number(new URL(first.url).port)
      expect(await portIsFree(port)).toBe(false)
      const postmaster = Number(
        readFileSync(path.join(home, 'cluster/postmaster.pid'), 'utf8').split('\n')[0],
      )
      process.kill(postmaster, 'SIGKILL')
      await expect.poll(() => portIsFree(port), { timeout: 10_000 }).toBe(true)
      const second = await startDatabase(home)
      expect(new URL(second.url).password).toBe(new URL(first.url).password)
      // a second start beside a running one uses what runs
      const third = await startDatabase(home)
      expect(third.url).toBe(second.url)
      await second.stop()
      expect(statSync(path.join(home, 'database.json')).mode & 0o077).toBe(0)
      expect(existsSync(path.join(home, '.password'))).toBe(false)
    },
  )
  it.runIf(isLong)(
    'has nothing to stop where it was killed, and says so at once',
    { timeout: 30_000 },
    async () => {
      const home = freshHome()
      const database = await startDatabase(home)
      process.kill(
        Number(readFileSync(path.join(home, 'cluster/postmaster.pid'), 'utf8').split('\n')[0]),
        'SIGKILL',
      )
      await expect.poll(() => portIsFree(Number(new URL(database.url).port)), { timeout: 10_000 }).toBe(true)
      await database.stop()
    },
  )
  it.runIf(isLong)(
    'comes back after one of its backends was killed, and can be stopped at once',
    { timeout: 60_000 },
    async () => {
      const home = freshHome()
      const first = await startDatabase(home)
      const client = new pg.Client({ connectionString: first.url })
      client.on('error', () => undefined)
      await client.connect()
      const { rows } = await client.query<{ pid: number }>('select pg_backend_pid() as pid')
      process.kill(rows[0]!.pid, 'SIGKILL')
      await first.stop()
      const second = await startDatabase(home)
      const again = new pg.Client({ connectionString: second.url })
      await again.connect()
      expect((await again.query('select 1 as one')).rows).toEqual([{ one: 1 }])
      await again.end()
      await second.stop()
    },
  )
  it.runIf(isLong)(
    'believes no lock file that names another program, and does not signal that',
    { timeout: 60_000 },
    async () => {
      const home = freshHome()
      const first = await startDatabase(home)
      const lock = path.join(home, 'cluster/postmaster.pid')
      const [pid, ...rest] = readFileSync(lock, 'utf8').split('\n')
      process.kill(Number(pid), 'SIGKILL')
      await expect.poll(() => portIsFree(Number(new URL(first.url).port)), { timeout: 10_000 }).toBe(true)
      const other = spawn(process.execPath, ['-e', 'setTimeout(() => {}, 120000)'])
      writeFileSync(lock, [other.pid, ...rest].join('\n'))
      const second = await startDatabase(home)
      await second.stop()
      expect(other.exitCode).toBe(null)
      expect(other.signalCode).toBe(null)
      other.kill()
    },
  )
  it(
    'lets the application work under a role that rules nothing, also where an earlier release worked as superuser',
    { timeout: 60_000 },
    async () => {
      const home = freshHome()
      const first = await startDatabase(home)
      await asking(first.adminUrl, async (ask) => {
        await ask('create table kept (id integer)')
        await ask('insert into kept values (7)')
      })
      // as the release before wrote it
      const file = path.join(home, 'database.json')
      const { port, password } = JSON.parse(readFileSync(file, 'utf8'))
      writeFileSync(file, JSON.stringify({ port, password }))
      const second = await startDatabase(home)
      await asking(second.url, async (ask) => {
        expect(await ask('select * from kept')).toEqual([{ id: 7 }])
        await ask('alter table kept add column note text')
        await expect(ask('create role another superuser')).rejects.toThrow(
          /permission denied|must be superuser/,
        )
        await expect(ask(`copy kept to program 'cat'`)).rejects.toThrow(/permission denied|must be superuser/)
      })
      await second.stop()
    },
  )
  it.each(['', '{"port": 54'])('says what to do where its settings are cut short: %s', async (content) => {
    const home = freshHome()
    const cluster = path.join(home, 'cluster')
    mkdirSync(cluster, { recursive: true })
    writeFileSync(path.join(cluster, 'PG_VERSION'), '15\n')
    writeFileSync(path.join(home, 'database.json'), content)
    await expect(startDatabase(home)).rejects.toThrow(/database\.json cannot be read: it is cut or empty/)
  })
})

describe('a home', () => {
  const holding = (...args: string[]) =>
    spawn(process.execPath, ['-e', 'setTimeout(() => {}, 120000)', ...args])
  const heldBy = (pid: number | undefined) => {
    const home = freshHome()
    mkdirSync(home)
    writeFileSync(path.join(home, 'start.lock'), JSON.stringify({ pid, port: 4310 }))
    return home
  }
  it('is held by one start at a time; the second says where the first is', async () => {
    const first = holding('start.mjs')
    const home = heldBy(first.pid)
    await expect(lockHome(home, 4311)).rejects.toThrow(
      `open http://127.0.0.1:4310, or end that start first (process ${first.pid})`,
    )
    first.kill()
    await new Promise((resolve) => first.on('exit', resolve))
    const { release } = await lockHome(home, 4311)
    expect(JSON.parse(readFileSync(path.join(home, 'start.lock'), 'utf8'))).toEqual({
      pid: process.pid,
      port: 4311,
    })
    release()
    expect(readdirSync(home)).toEqual([])
  })
  it('is not held by another program that has the number of a start that was killed', async () => {
    const other = holding('something-else')
    const { release } = await lockHome(heldBy(other.pid), 4311)
    release()
    other.kill()
  })
})
