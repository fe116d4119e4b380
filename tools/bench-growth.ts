// npm run bench, second part: what one thing costs against how much is stored and how large a chain is, from one run.
import { mkdtempSync, rmSync, chmodSync } from 'node:fs'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { performance } from 'node:perf_hooks'
import { fileURLToPath } from 'node:url'
import { sql } from 'kysely'
import { pino } from 'pino'
import { balance } from '@iron-hush/core/balance'
import { wiringFindings, wiringOf } from '@iron-hush/core/circuit'
import { levelsOfPatch } from '@iron-hush/core/levels'
import { type Patch, shelfFor, uuidv7 } from '@iron-hush/core/model'
import { scenes, shelf } from '../core/src/tests/demo'
import { createApp } from '../server/src/app'
import { connect, type Database } from '../server/src/database'
import { loadDemo } from '../server/src/demo'
import { migrate } from '../server/src/migrate'
import { measured } from '../server/src/tests/measured'
import { drawingCosts, median, storedPageCosts } from './bench-growth-page'
import { needBrowser } from './browser.mjs'
import { startDatabase } from './database.mjs'
import { needBuild } from './packages.mjs'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
const rounds = 15
const web = fileURLToPath(new URL('../web/dist', import.meta.url))
/** Of growth between two sizes: 0, it does not grow; 1, in proportion. */
const exponent = (from: number, to: number, times: number) => Math.log(to / from) / Math.log(times)

interface Cost {
  ms: number
  /** Of the first page, compressed. */
  kb?: number
}

/** Fills a database up to a number of things, takes and measurements of one scene, scenes, and revisions of one scene. */
async function fill(db: Database, scene: string, from: number, to: number): Promise<void> {
  const [gear] = await db.selectFrom('gear').selectAll().limit(1).execute()
  const document = gear!.document as object
  const numbers = Array.from({ length: to - from }, (_, index) => from + index)
  const inParts = async <T>(rows: T[], insert: (part: T[]) => Promise<unknown>) => {
    for (let start = 0; start < rows.length; start += 1000) await insert(rows.slice(start, start + 1000))
  }
  const things = numbers.map((number) => {
    const own = { id: `bench-${number}`, name: `Thing ${number}` }
    const { maker, kind } = gear!
    return { ...own, maker, kind, owned: 0, revision: 1, document: JSON.stringify({ ...document, ...own }) }
  })
  await inParts(things, (part) => db.insertInto('gear').values(part).execute())
  const takes = numbers.map((number) => ({
    id: id(),
    scene_id: scene,
    number: number + 1,
    started_at: new Date(Date.UTC(2026, 0, 1) + number * 60_000),
    ended_at: new Date(Date.UTC(2026, 0, 1) + number * 60_000 + 1000).toISOString(),
    verdict: 'open',
    note: '',
    revision: 1,
  }))
  await inParts(takes, (part) => db.insertInto('takes').values(part).execute())
  const proofs = numbers.map((number) => ({
    id: id(),
    scene_id: scene,
    clip: `clip-${number}.wav`,
    recording: '',
    measured_at: new Date(Date.UTC(2026, 0, 1) + number * 60_000),
    measurement: JSON.stringify({ ...measured, clip: `clip-${number}.wav` }),
    revision: 1,
  }))
  await inParts(proofs, (part) => db.insertInto('proofs').values(part).execute())
  await fillShoots(db, numbers)
  await fillRevisions(db, scene, numbers.length)
  await sql`analyze`.execute(db)
}

/** A shoot with ten scenes for each ten numbers. */
async function fillShoots(db: Database, numbers: readonly number[]): Promise<void> {
  for (const number of numbers.filter((each) => each % 10 === 0)) {
    const shoot = id()
    await db
      .insertInto('shoots')
      .values({ id: shoot, name: `Shoot ${number}` })
      .execute()
    await sql`insert into scenes (id, shoot_id, position, name, revision)
      select gen_random_uuid(), ${shoot}::uuid, at, ${`Scene ${number}.`} || at, 1 from generate_series(0, 9) at`.execute(
      db,
    )
  }
}

/** Revisions of a scene as the application makes them: a snapshot at every twenty-fifth. */
async function fillRevisions(db: Database, scene: string, count: number): Promise<void> {
  const patch = JSON.stringify(scenes[0])
  const first = Number(
    (await sql<{ revision: number }>`select revision from scenes where id = ${scene}::uuid`.execute(db))
      .rows[0]!.revision,
  )
  await sql`insert into scene_edits (scene_id, revision, change_id, edits)
    select ${scene}::uuid, at, gen_random_uuid(), '[{"kind":"note","note":"x"}]'::jsonb
    from generate_series(${first + 1}::int, ${first + count}::int) at`.execute(db)
  await sql`insert into scene_snapshots (scene_id, revision, patch)
    select ${scene}::uuid, at, ${patch}::jsonb
    from generate_series(${first + 1}::int, ${first + count}::int) at where at % 25 = 0 or at = ${first + count}
    on conflict do nothing`.execute(db)
  await sql`update scenes set revision = ${first + count} where id = ${scene}::uuid`.execute(db)
}

/** Present cost of one of each. */
async function costs(base: string, scene: string): Promise<Map<string, Cost>> {
  const json = { 'content-type': 'application/json' }
  const timed = async (work: (round: number) => Promise<number | undefined>): Promise<Cost> => {
    const times: number[] = []
    let bytes: number | undefined
    for (let round = 0; round < rounds; round++) {
      const from = performance.now()
      bytes = await work(round)
      times.push(performance.now() - from)
    }
    return { ms: median(times), ...(bytes === undefined ? {} : { kb: bytes / 1000 }) }
  }
  const got = (address: string) => timed(() => compressedBytes(base + address))
  const revisionOf = async () =>
    ((await (await fetch(`${base}/api/scenes/${scene}`)).json()) as { revision: number }).revision
  let revision = await revisionOf()
  const edit = await timed(async (round) => {
    const edits = [{ kind: 'note', note: `n${round}` }]
    const body = JSON.stringify({ id: id(), baseRevision: revision, edits })
    const answer = await fetch(`${base}/api/scenes/${scene}/edits`, { method: 'POST', headers: json, body })
    revision = ((await answer.json()) as { revision: number }).revision
    return undefined
  })
  return new Map([
    ['one edit', edit],
    ['opening a scene', await got(`/api/scenes/${scene}`)],
    ['first page of the shelf', await got('/api/gear')],
    ['first page of takes', await got(`/api/scenes/${scene}/takes`)],
    ['first page of measurements', await got(`/api/scenes/${scene}/proofs`)],
    ['first page of shoots', await got('/api/shoots')],
    ['where a thing is used', await got('/api/gear/oriel-short-gun/uses')],
  ])
}

/** Size of an answer in transit, bytes. */
const compressedBytes = (address: string) =>
  new Promise<number>((resolve, reject) => {
    http
      .get(address, { headers: { 'accept-encoding': 'gzip' } }, (response) => {
        let bytes = 0
        response.on('data', (part: Buffer) => (bytes += part.length))
        response.on('end', () => resolve(bytes))
      })
      .on('error', reject)
  })

/** Prints what one of each costs against how much is stored; gives what drawing costs for each size of chain. */
async function stored(): Promise<[string, number[]][]> {
  const scratch = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-bench-'))
  chmodSync(scratch, 0o755)
  const database = await startDatabase(path.join(scratch, 'home'))
  const db = connect(database.url)
  try {
    await migrate(db)
    await loadDemo(db)
    const app = createApp({ db, web, log: pino({ level: 'silent' }), requestsPerMinute: 1e9 })
    const server = app.listen(0, '127.0.0.1')
    await new Promise((resolve) => server.once('listening', resolve))
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
    const { id: scene, shoot_id: shoot } = await db
      .selectFrom('scenes')
      .select(['id', 'shoot_id'])
      .orderBy('position')
      .executeTakeFirstOrThrow()
    const sizes = [100, 1000, 10_000]
    const found: Map<string, Cost>[] = []
    for (const [index, size] of sizes.entries()) {
      await fill(db, scene, sizes[index - 1] ?? 0, size)
      const page = await storedPageCosts(base, scene)
      found.push(
        new Map([...(await costs(base, scene)), ...page.map(([name, ms]) => [name, { ms }] as const)]),
      )
    }
    const drawn = await drawingCosts(base, shoot, chainSizes.map(chainOf))
    server.close()
    console.log(
      '\nagainst 100, 1,000 and 10,000 things, takes, measurements, scenes and revisions: ratio to the first',
    )
    for (const name of found[0]!.keys()) {
      const each = found.map((costsThen) => costsThen.get(name)!)
      const ratios = each.map(({ ms }) => (ms / each[0]!.ms).toFixed(2)).join('  ')
      const kb = each.at(-1)!.kb
      const size = kb === undefined ? '' : `, ${kb.toFixed(0)} kB compressed at most (aim under 100)`
      console.log(`${name.padEnd(32)} ${ratios}   aim about 1${size}`)
    }
    return drawn
  } finally {
    await db.destroy()
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** A chain with a number of boxes: copies of two-box pieces of the demo's longest scene. */
function chainOf(boxes: number): Patch {
  const model = scenes.find(({ name }) => name === 'The founder at the bench')!
  const copies = Math.ceil(boxes / model.boxes.length)
  const parts = Array.from({ length: copies }, (_, copy) => {
    const named = (box: string) => (copy === 0 ? box : `${box}-${copy}`)
    return {
      boxes: model.boxes.map((box) => ({ ...box, id: named(box.id) })),
      links: model.links.map((link) => ({
        ...link,
        id: named(link.id),
        from: { ...link.from, box: named(link.from.box) },
        to: { ...link.to, box: named(link.to.box) },
        pieces: link.pieces.map((piece) => ({ ...piece, id: named(piece.id) })),
        ...(link.branch ? { branch: { ...link.branch, piece: named(link.branch.piece) } } : {}),
      })),
    }
  })
  const kept = parts.flatMap((part) => part.boxes).slice(0, boxes)
  const known = new Set(kept.map((box) => box.id))
  return {
    ...model,
    boxes: kept,
    links: parts
      .flatMap((part) => part.links)
      .filter(({ from, to }) => known.has(from.box) && known.has(to.box)),
  }
}

const chainSizes = [5, 10, 20, 40]

function chains(drawn: readonly [string, number[]][]): void {
  const works: [string, (patch: Patch) => unknown, number][] = [
    ['recomputing levels', (patch) => levelsOfPatch({ ...patch }, shelf), 15],
    // another shelf each time, so that no circuit is remembered
    ['wiring', (patch) => wiringFindings(wiringOf(patch, new Map(shelfFor(patch, shelf)))), 5],
    ['Balance', (patch) => balance(patch, shelf), 1],
  ]
  console.log('\nagainst 5, 10, 20 and 40 boxes: ratio to the first, and the exponent of growth')
  const worked = works.map(([name, work, times]): [string, number[]] => [
    name,
    chainSizes.map((boxes) => {
      const patch = chainOf(boxes)
      return median(
        Array.from({ length: times }, () => {
          const from = performance.now()
          work(patch)
          return performance.now() - from
        }),
      )
    }),
  ])
  for (const [name, each] of [...worked, ...drawn]) {
    const ratios = each.map((ms) => (ms / each[0]!).toFixed(2)).join('  ')
    console.log(`${name.padEnd(32)} ${ratios}   exponent ${exponent(each[0]!, each.at(-1)!, 8).toFixed(2)}`)
  }
}

await needBrowser()
await needBuild()
chains(await stored())
