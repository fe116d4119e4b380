// npm run faults: what happens when things break, at random. By hand; short forms are part of the tests.
// Options: --only kills,disk,requests,clips,patches,load,phones --writes 1000 --kills 30 --requests 100000 --clips 5000
// --patches 5000 --clients 50 --seconds 30 --rounds 48 --seed 1 --port 4700
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import { startDatabase } from '../database.mjs'
import { needBuild, root } from '../packages.mjs'
import { Application } from '../running'
import { fullDisk } from './full-disk'
import { oddClips, oddRequests } from './inputs'
import { killed } from './kills'
import { load, secondServer, serverPid } from './load'
import { twoPhones } from './phones'
import { readOptions } from '../options.mjs'

const { values } = readOptions(
  'npm run faults -- [--only kills,disk,...] [--writes 1000] [--kills 30] [--requests 100000] [--clips 5000] [--patches 5000] [--clients 50] [--seconds 30] [--rounds 48] [--seed 1] [--port 4700]',
  {
    only: { type: 'string', default: 'kills,disk,requests,clips,patches,load,phones' },
    writes: { type: 'string', default: '1000' },
    kills: { type: 'string', default: '30' },
    requests: { type: 'string', default: '100000' },
    clips: { type: 'string', default: '5000' },
    patches: { type: 'string', default: '5000' },
    clients: { type: 'string', default: '50' },
    seconds: { type: 'string', default: '30' },
    rounds: { type: 'string', default: '48' },
    seed: { type: 'string', default: '1' },
    port: { type: 'string', default: '4700' },
  },
)
const port = Number(values.port)
const seed = Number(values.seed)
let failed = false

/** A line of the report; `ok` says whether it is what was aimed at. */
function say(ok: boolean, text: string): void {
  if (!ok) failed = true
  console.log(`${ok ? 'ok    ' : 'BEYOND'} ${text}`)
}

/** Numbers from 0 to 1, the same for the same seed (xorshift32, Marsaglia 2003). */
function randomFrom(start: number): () => number {
  let state = start * 2_654_435_761 || 1
  return () => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return (state >>> 0) / 2 ** 32
  }
}

async function kills(): Promise<void> {
  const found = await killed(
    new Application(port),
    { writes: Number(values.writes), kills: Number(values.kills) },
    randomFrom(seed),
  )
  const list = [...found.kills].map(([what, count]) => `${what} ${count}`).join(', ')
  say(
    found.lost === 0 && found.doubled === 0 && found.refused.length === 0,
    `${found.acknowledged} acknowledged writes, ${found.lost} lost, ${found.doubled} doubled, ${found.refused.length} refused; killed: ${list}; back after ${found.slowestRestartS.toFixed(1)} s at most; asked again ${found.unavailable} times`,
  )
  found.refused.slice(0, 3).forEach((each) => console.log(`       ${each}`))
}

async function disk(): Promise<void> {
  const found = await fullDisk(port + 1)
  if (!found) return console.log('       a full disk: no small disk can be made by this user')
  say(
    found.full > 0 &&
      found.others.length === 0 &&
      found.readWhileFull === 200 &&
      found.after === 200 &&
      found.lost === 0,
    `a full disk: ${found.full} times 507${found.others.length ? `, also ${found.others.join(', ')}` : ''}, reading meanwhile ${found.readWhileFull}, writing after room was made ${found.after}, ${found.lost} of ${found.stored} acknowledged lost`,
  )
  console.log(`       said: ${found.said.slice(0, 300)}`)
}

/** Runs something against a separate application. */
async function withApplication(work: (application: Application) => Promise<void>): Promise<void> {
  const application = new Application(port + 2)
  await application.start()
  try {
    await work(application)
  } finally {
    await application.end()
  }
}

const requests = () =>
  withApplication(async (application) => {
    const { statuses, failures } = await oddRequests(
      application.address,
      Number(values.requests),
      randomFrom(seed),
    )
    const list = [...statuses]
      .sort(([one], [other]) => one - other)
      .map(([status, count]) => `${count} times ${status}`)
    say(failures.length === 0, `${values.requests} malformed requests: ${list.join(', ')}`)
    failures.slice(0, 5).forEach((each) => console.log(`       ${each}`))
  })

async function clips(): Promise<void> {
  const { refused, failures, slowestMs } = await oddClips(Number(values.clips), randomFrom(seed))
  say(
    failures.length === 0 && slowestMs < 5000,
    `${values.clips} mutated clips: ${refused} refused in a sentence, ${failures.length} failed, the slowest took ${slowestMs.toFixed(0)} ms`,
  )
  failures.slice(0, 5).forEach((each) => console.log(`       ${each}`))
}

/** Patches are worked out by the engine as it is built for the page: run from its sources it takes up to twice as long. */
async function patches(): Promise<void> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-faults-'))
  const outfile = path.join(folder, 'patches.mjs')
  await build({
    entryPoints: [path.join(root, 'tools/faults/patches.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'silent',
    // the demo is read from beside its sources
    define: { 'import.meta.url': JSON.stringify(pathToFileURL(path.join(root, 'core/src/tests/demo.ts'))) },
  })
  const { oddPatches } = (await import(pathToFileURL(outfile).href)) as typeof import('./patches')
  rmSync(folder, { recursive: true })
  const { failures, slowestS } = oddPatches(Number(values.patches), seed)
  say(
    failures.length === 0 && slowestS < 5,
    `${values.patches} mutated patches: ${failures.length} failed, the slowest took ${slowestS.toFixed(1)} s`,
  )
  failures.slice(0, 5).forEach((each) => console.log(`       ${each}`))
}

const loaded = () =>
  withApplication(async (application) => {
    const one = { base: application.address, pid: serverPid(application) }
    const second = await secondServer((await startDatabase(application.home)).url, port + 3)
    const other = { base: `http://127.0.0.1:${port + 3}`, pid: second.pid! }
    const asked = { clients: Number(values.clients), seconds: Number(values.seconds) }
    for (const servers of [[one], [one, other]]) {
      const found = await load(servers, asked)
      const memory = found.memoryMb.map(([before, after]) => `${before.toFixed(0)} to ${after.toFixed(0)} MB`)
      say(
        found.failed === 0,
        `${asked.clients} clients for ${asked.seconds} s on ${servers.length === 1 ? 'one server' : 'two'}: ${found.perSecond.toFixed(0)} requests a second, median ${found.medianMs.toFixed(0)} ms, slowest ${found.slowestMs.toFixed(0)} ms, ${found.failed} failed; memory ${memory.join(', ')}`,
      )
    }
    second.kill()
  })

const phones = () =>
  withApplication(async (application) => {
    const found = await twoPhones(application.address, Number(values.rounds), randomFrom(seed))
    say(
      found.lost === 0 && found.doubled === 0,
      `two phones, ${found.hours.toFixed(1)} hours, ${found.rounds} times offline: ${found.done} things done, ${found.lost} lost, ${found.doubled} doubled, ${found.conflicts} conflicts met`,
    )
  })

async function main(): Promise<void> {
  // rate limits would keep this from finding anything
  process.env.REQUESTS_PER_MINUTE = '10000000'
  await needBuild()
  const sections = { kills, disk, requests, clips, patches, load: loaded, phones }
  for (const name of values.only.split(',')) {
    const section = sections[name as keyof typeof sections]
    if (!section)
      throw new Error(`There is no section "${name}"; there are ${Object.keys(sections).join(', ')}.`)
    const from = performance.now()
    await section()
    console.log(`       (${name}: ${((performance.now() - from) / 1000).toFixed(0)} s)`)
  }
  process.exit(failed ? 1 : 0)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
