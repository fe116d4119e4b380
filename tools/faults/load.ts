import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import path from 'node:path'
import { serverProgram } from '../bundles.mjs'
import type { Application } from '../running'
import { newId } from './ledger'

const root = path.resolve(import.meta.dirname, '../..')

/** Throughput and latency of parallel clients that read and write without a pause, through one or several servers on one database. */
export async function load(
  servers: readonly { base: string; pid: number }[],
  { clients, seconds }: { clients: number; seconds: number },
) {
  const { base } = servers[0]!
  const shoot = newId()
  const json = { 'content-type': 'application/json' }
  const made = {
    method: 'PUT',
    headers: json,
    body: JSON.stringify({ baseRevision: 0, content: { name: 'Load', date: null, place: '' } }),
  }
  await fetch(`${base}/api/shoots/${shoot}`, made)
  const shoots = (await (await fetch(`${base}/api/shoots`)).json()) as {
    demo: boolean
    scenes: { id: string }[]
  }[]
  const model = shoots.find(({ demo }) => demo)!.scenes[0]!.id
  const { patch } = (await (await fetch(`${base}/api/scenes/${model}`)).json()) as { patch: object }
  const statuses = new Map<number, number>()
  const times: number[] = []
  const memoryBefore = servers.map(({ pid }) => residentMb(pid))
  const until = performance.now() + seconds * 1000
  await Promise.all(
    Array.from({ length: clients }, (_, index) => {
      const { base: own } = servers[index % servers.length]!
      return busy({ base: own, shoot, patch, until }, (status, ms) => {
        times.push(ms)
        statuses.set(status, (statuses.get(status) ?? 0) + 1)
      })
    }),
  )
  await fetch(`${base}/api/shoots/${shoot}`, { method: 'DELETE' })
  times.sort((one, other) => one - other)
  return {
    requests: times.length,
    perSecond: times.length / seconds,
    medianMs: times[times.length >> 1] ?? NaN,
    slowestMs: times.at(-1) ?? NaN,
    failed: [...statuses]
      .filter(([status]) => status === 0 || status >= 500)
      .reduce((sum, [, n]) => sum + n, 0),
    memoryMb: servers.map(({ pid }, index) => [memoryBefore[index]!, residentMb(pid)] as const),
  }
}

/** One client that changes and reads its own scene, one request after another. */
async function busy(
  { base, shoot, patch, until }: { base: string; shoot: string; patch: object; until: number },
  answered: (status: number, ms: number) => void,
): Promise<void> {
  const ask = async (method: string, address: string, body?: object) => {
    const from = performance.now()
    const answer = await fetch(base + address, {
      method,
      headers: { 'content-type': 'application/json' },
      body: body && JSON.stringify(body),
    }).catch(() => undefined)
    const content: unknown = await answer?.json().catch(() => undefined)
    answered(answer?.status ?? 0, performance.now() - from)
    return content as { revision: number } | undefined
  }
  const scene = newId()
  let revision = (await ask('PUT', `/api/scenes/${scene}`, { shoot, patch }))?.revision ?? 1
  while (performance.now() < until) {
    const edits = [{ kind: 'note', note: newId() }]
    const change = { id: newId(), baseRevision: revision, edits }
    revision = (await ask('POST', `/api/scenes/${scene}/edits`, change))?.revision ?? revision
    await ask('GET', `/api/scenes/${scene}`)
    await ask('GET', `/api/scenes/${scene}/takes`)
  }
}

/** A second server on the database of one that runs. */
export async function secondServer(databaseUrl: string, port: number): Promise<ChildProcess> {
  const child = spawn(process.execPath, [serverProgram], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port) },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  })
  await new Promise<void>((resolve, reject) => {
    child.on('message', () => resolve())
    child.on('exit', (code) => reject(new Error(`the second server ended with ${code}`)))
  })
  return child
}

/** The server's process below a start command. */
export function serverPid({ pid }: Application): number {
  const lines = execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(pid)], { encoding: 'utf8' }).split(
    '\n',
  )
  return Number(
    lines
      .find((line) => line.includes(serverProgram))!
      .trim()
      .split(' ')[0],
  )
}

const residentMb = (pid: number): number =>
  Number(execFileSync('ps', ['-o', 'rss=', '-p', String(pid)], { encoding: 'utf8' })) / 1024
