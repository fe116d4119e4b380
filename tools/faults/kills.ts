import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { serverProgram } from '../bundles.mjs'
import { Application } from '../running'
import { Ledger } from './ledger'

export type Victim = 'server' | 'database' | 'one backend' | 'everything' | 'paused database'
export const victims: readonly Victim[] = [
  'server',
  'database',
  'one backend',
  'everything',
  'paused database',
]

/** Parallel writers, each on its own scene. */
const writers = 4

/**
 * Writes while parts of the application are killed at random moments, and starts it again with `npm start` alone.
 *
 * @param least acknowledged writes and kills before it ends
 * @param random from 0 to 1
 */
export async function killed(
  application: Application,
  least: { writes: number; kills: number },
  random: () => number,
) {
  await application.start()
  const shoots = (await (await fetch(`${application.address}/api/shoots`)).json()) as {
    scenes: { id: string; revision: number }[]
  }[]
  const ledgers = shoots
    .flatMap(({ scenes }) => scenes)
    .slice(0, writers)
    .map((scene) => new Ledger(application.address, { ...scene }))
  const writing = ledgers.map((ledger) => ledger.write())
  const kills = new Map<Victim, number>()
  let slowestRestartS = 0
  const count = () => ledgers.reduce((sum, ledger) => sum + ledger.acknowledged, 0)
  for (let turn = 0; count() < least.writes || turn < least.kills; turn++) {
    await pause(300 + 1500 * random())
    const victim = victims[turn % victims.length]!
    kill(application, victim)
    kills.set(victim, (kills.get(victim) ?? 0) + 1)
    const from = performance.now()
    await backAgain(application)
    slowestRestartS = Math.max(slowestRestartS, (performance.now() - from) / 1000)
  }
  for (const ledger of ledgers) ledger.end()
  await Promise.all(writing)
  let [lost, doubled] = [0, 0]
  for (const ledger of ledgers) {
    const found = await ledger.compare()
    lost += found.lost
    doubled += found.doubled
  }
  await application.end()
  const refused = ledgers.flatMap((ledger) => ledger.refused)
  const unavailable = ledgers.reduce((sum, ledger) => sum + ledger.unavailable, 0)
  return { acknowledged: count(), lost, doubled, kills, refused, unavailable, slowestRestartS }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

const childrenOf = (pid: number): number[] =>
  execFileSync('ps', ['-o', 'pid=', '--ppid', String(pid)], { encoding: 'utf8' })
    .trim()
    .split(/\s+/)
    .map(Number)
    .filter(Boolean)

function kill(application: Application, victim: Victim): void {
  const postmaster = Number(
    readFileSync(path.join(application.home, 'cluster/postmaster.pid'), 'utf8').split('\n')[0],
  )
  const start = application.pid!
  const server = childrenOf(start).find((pid) => commandOf(pid).includes(serverProgram))
  const backends =
    quietly(() => childrenOf(postmaster).filter((pid) => /127\.0\.0\.1/.test(commandOf(pid)))) ?? []
  const end = (...pids: (number | undefined)[]) =>
    pids.forEach((pid) => quietly(() => pid && process.kill(pid, 'SIGKILL')))
  if (victim === 'server') end(server)
  else if (victim === 'database') end(postmaster)
  else if (victim === 'one backend') end(backends[0])
  else if (victim === 'everything') end(start, server, postmaster, ...backends)
  else {
    const all = [postmaster, ...backends]
    all.forEach((pid) => quietly(() => process.kill(pid, 'SIGSTOP')))
    setTimeout(() => all.forEach((pid) => quietly(() => process.kill(pid, 'SIGCONT'))), 3000)
  }
}

const commandOf = (pid: number): string =>
  quietly(() => execFileSync('ps', ['-o', 'args=', '-p', String(pid)], { encoding: 'utf8' })) ?? ''

/** A process may be gone already. */
function quietly<T>(work: () => T): T | undefined {
  try {
    return work()
  } catch {
    return undefined
  }
}

/** Resolves when the application answers; where the start command has ended, it is given again. */
async function backAgain(application: Application): Promise<void> {
  const until = Date.now() + 120_000
  await pause(500)
  for (;;) {
    if (!application.runs) await application.start()
    const ready = await fetch(`${application.address}/api/ready`, {
      signal: AbortSignal.timeout(20_000),
    }).catch(() => undefined)
    if (ready?.ok) return
    if (Date.now() > until) throw new Error(`It did not come back within two minutes: ${application.output}`)
    await pause(100)
  }
}
