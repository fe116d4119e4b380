import type { AddressInfo } from 'node:net'
import http from 'node:http'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { gzipSync } from 'node:zlib'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { SceneDocument, Stored } from '@iron-hush/core/contract'
import { type Gear, type Patch, type Take, uuidv7 } from '@iron-hush/core/model'
import { isLong } from '../../core/src/tests/form'
import { allRoutes, createApp } from './app'
import type { Database } from './database'
import { loadDemo } from './demo'
import { migrate } from './migrate'
import { measured } from './tests/measured'
import { freshDatabase } from './tests/fresh-database'
import { type Serving, serving } from './tests/serving'

const demo = path.resolve(import.meta.dirname, '../../demo')
const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

let db: Database
let base: string
let call: Serving['call']
let close: Serving['close']
let scene: SceneDocument

const gain = (position: number) => [{ kind: 'set control', part: 'recorder', control: 'gain-1', position }]
const gainOf = (patch: Patch) => patch.boxes.find((box) => box.id === 'recorder')!.settings['gain-1']

beforeAll(async () => {
  ;({ db, base, call, close } = await serving())
  const [shoot] = (await call('GET', '/api/shoots')).body
  scene = (await call('GET', `/api/scenes/${shoot.scenes[0].id}`)).body
})
afterAll(() => close())

describe('the database', () => {
  it('migrates twice without harm and loads the demo only once', async () => {
    await migrate(db)
    expect(await loadDemo(db, demo)).toBe(false)
    expect((await call('GET', '/api/shoots')).body).toHaveLength(1)
  })
  it('leaves a database of a newer release alone and says so', async () => {
    const other = await freshDatabase()
    await migrate(other)
    await other.insertInto('migrations').values({ name: '0999-from-tomorrow' }).execute()
    await expect(migrate(other)).rejects.toThrow(
      /newer Iron Hush \(step 0999-from-tomorrow\).*nothing was changed/,
    )
    await other.destroy()
  })
})

describe('scenes', () => {
  it('opens the founder at the bench', () => {
    expect(scene.patch.name).toBe('The founder at the bench')
    expect(scene.revision).toBe(1)
  })
  it('changes once, however often the change is sent', async () => {
    const request = { id: id(), baseRevision: scene.revision, edits: gain(41) }
    const first = await call('POST', `/api/scenes/${scene.id}/edits`, request)
    const again = await call('POST', `/api/scenes/${scene.id}/edits`, request)
    expect(first.status).toBe(200)
    expect(again.body).toEqual(first.body)
    expect(first.body).toEqual({ revision: 2 })
    expect(gainOf((await call('GET', `/api/scenes/${scene.id}`)).body.patch)).toBe(41)
  })
  it('answers a change of an old version with both, and keeps what is stored', async () => {
    const late = await call('POST', `/api/scenes/${scene.id}/edits`, {
      id: id(),
      baseRevision: 1,
      edits: gain(20),
    })
    expect(late.status).toBe(409)
    expect(late.headers.get('content-type')).toMatch(/application\/problem\+json/)
    expect(gainOf(late.body.theirs.patch)).toBe(41)
    expect(gainOf(late.body.yours)).toBe(20)
    expect(late.body.detail).toMatch(/Nothing was overwritten/)
    expect(gainOf((await call('GET', `/api/scenes/${scene.id}`)).body.patch)).toBe(41)
  })
  it('lets one of two simultaneous changes win and tells the other', async () => {
    const { revision } = (await call('GET', `/api/scenes/${scene.id}`)).body
    const answers = await Promise.all(
      [30, 31, 32, 33].map((position) =>
        call('POST', `/api/scenes/${scene.id}/edits`, {
          id: id(),
          baseRevision: revision,
          edits: gain(position),
        }),
      ),
    )
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409])
  })
  it.each([
    ['a position the box does not have', gain(400), 422, /cannot be set to/],
    ['an unknown field', [{ ...gain(41)[0], colour: 'red' }], 422, /unknown field "colour"/],
    ['a note of 100,000 characters', [{ kind: 'note', note: 'x'.repeat(100_000) }], 422, /at most 4000/],
    [
      'more than a megabyte',
      [{ kind: 'note', note: 'x'.repeat(1_100_000) }],
      413,
      /larger than the server accepts at once/,
    ],
    ['no edits', [], 422, /at least 1/],
  ])('refuses %s and stores nothing', async (_, edits, status, detail) => {
    const before = (await call('GET', `/api/scenes/${scene.id}`)).body
    const answer = await call('POST', `/api/scenes/${scene.id}/edits`, {
      id: id(),
      baseRevision: before.revision,
      edits,
    })
    expect(answer.status).toBe(status)
    expect(answer.body.detail).toMatch(detail)
    expect((await call('GET', `/api/scenes/${scene.id}`)).body).toEqual(before)
  })
  it('answers of the shelf what it uses, and no more', async () => {
    const { boxes, links } = (await call('GET', `/api/scenes/${scene.id}`)).body.patch as Patch
    const named = [...boxes, ...links.flatMap(({ pieces }) => pieces)].map(({ gear }) => gear)
    const { status, body } = await call('GET', `/api/scenes/${scene.id}/gear`)
    expect(status).toBe(200)
    const ids = (body as { content: { id: string } }[]).map(({ content }) => content.id)
    expect(ids.sort()).toEqual([...new Set(named)].sort())
    const { status: none } = await call('GET', `/api/scenes/${id()}/gear`)
    expect(none).toBe(404)
  })
  it('says what is not JSON and what is not there', async () => {
    expect((await call('POST', `/api/scenes/${scene.id}/edits`, '{"id": NaN}')).status).toBe(400)
    expect((await call('GET', `/api/scenes/${id()}`)).body.detail).toMatch(/This scene was not found/)
    expect((await call('GET', '/api/scenes/1;drop table scenes')).status).toBe(404)
    expect((await call('GET', '/api/nonsense')).status).toBe(404)
  })
})

describe('takes', () => {
  const take = (): Take => ({
    id: id(),
    scene: scene.id,
    number: 1,
    startedAt: '2026-05-04T09:00:00.000Z',
    endedAt: null,
    verdict: 'open',
    note: '',
    marks: [{ id: id(), kind: 'aircraft', atS: 12.5, channel: 'camera.left', note: '' }],
    parts: [{ id: 'recorder', gear: 'any', settings: { 'gain-1': 42.5, limiter: 'on' } }],
  })
  it('are stored with their marks, change with their revision, and take a retry for what it is', async () => {
    const first = take()
    expect(
      (await call('PUT', `/api/takes/${first.id}`, { baseRevision: 0, content: first })).body.revision,
    ).toBe(1)
    expect(
      (await call('PUT', `/api/takes/${first.id}`, { baseRevision: 0, content: first })).body.revision,
    ).toBe(1)
    const ended = {
      ...first,
      endedAt: '2026-05-04T09:02:00.000Z',
      marks: [...first.marks, { ...first.marks[0]!, id: id(), kind: 'hum', atS: 3 }],
    }
    expect(
      (await call('PUT', `/api/takes/${first.id}`, { baseRevision: 1, content: ended })).body.revision,
    ).toBe(2)
    const stale = await call('PUT', `/api/takes/${first.id}`, {
      baseRevision: 1,
      content: { ...first, note: 'late' },
    })
    expect(stale.status).toBe(409)
    expect(stale.body.theirs.content.endedAt).toBe(ended.endedAt)
    expect(stale.body.yours.note).toBe('late')
    const [stored] = (await call('GET', `/api/scenes/${scene.id}/takes`)).body
    expect(stored.content.marks.map((mark: { kind: string }) => mark.kind)).toEqual(['hum', 'aircraft'])
  })
  it('can be taken back, and belong to a scene that is there', async () => {
    const one = { ...take(), number: 7, endedAt: '2026-05-04T09:10:00.000Z' }
    await call('PUT', `/api/takes/${one.id}`, { baseRevision: 0, content: one })
    const drop = (revision: number) => call('DELETE', `/api/takes/${one.id}?revision=${revision}`)
    expect((await drop(1)).body).toEqual({ gone: true, revision: 2 })
    expect((await drop(1)).body).toEqual({ gone: true, revision: 2 })
    expect((await call('DELETE', `/api/takes/${id()}?revision=1`)).body).toEqual({ gone: false, revision: 0 })
    const lost = { ...take(), scene: id() }
    expect((await call('PUT', `/api/takes/${lost.id}`, { baseRevision: 0, content: lost })).status).toBe(404)
  })
})

describe('takes of two windows', () => {
  const put = (content: Take, baseRevision = 0) =>
    call('PUT', `/api/takes/${content.id}`, { baseRevision, content })
  const rolling = (number: number): Take => ({
    id: id(),
    scene: scene.id,
    number,
    startedAt: '2026-05-04T10:00:00.000Z',
    endedAt: null,
    verdict: 'open',
    note: '',
    marks: [],
    parts: [],
  })
  const over = (take: Take): Take => ({ ...take, endedAt: '2026-05-04T10:05:00.000Z' })
  it('roll one at a time, each under a number of its own: the second is shown the first', async () => {
    const [first, second] = [rolling(20), rolling(20)]
    const answers = await Promise.all([put(first), put(second)])
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
    const [won, lost] = answers[0]!.status === 200 ? [first, second] : [second, first]
    const refused = answers.find(({ status }) => status === 409)!
    expect(refused.body.theirs.content.id).toBe(won.id)
    // a third number does not help while one rolls
    expect((await put({ ...lost, number: 21 })).body.theirs.content.id).toBe(won.id)
    expect((await put(over(won), 1)).status).toBe(200)
    expect((await put(over(lost))).status).toBe(409)
    expect((await put(over({ ...lost, number: 21 }))).status).toBe(200)
    expect((await put(over({ ...lost, number: 20 }), 1)).status).toBe(409)
  })
})

describe('measurements', () => {
  it('are kept with the scene', async () => {
    const record = {
      id: id(),
      scene: scene.id,
      recording: 'camera.left',
      take: { id: id(), number: 2, laterS: -1.5, by: 'time' },
      measuredAt: '2026-05-04T09:00:00.000Z',
      measurement: measured,
    }
    const put = (baseRevision: number, content: object) =>
      call('PUT', `/api/proofs/${record.id}`, { baseRevision, content })
    expect((await put(0, record)).body).toEqual({ revision: 1 })
    expect((await put(0, record)).body).toEqual({ revision: 1 })
    expect((await put(0, { ...record, recording: 'camera.right' })).status).toBe(409)
    expect((await call('GET', `/api/scenes/${scene.id}/proofs`)).body).toEqual([
      { revision: 1, content: record },
    ])
    expect((await call('DELETE', `/api/proofs/${record.id}?revision=1`)).body.gone).toBe(true)
  })
})

describe('gear', () => {
  it('changes by revision and refuses what is unsound', async () => {
    const all: Stored<Gear>[] = (await call('GET', '/api/gear')).body
    const { content: gear, revision } = all.find((each) => each.content.id === 'mini-pad-40')!
    const owned = { ...gear, owned: 2 }
    expect(
      (await call('PUT', `/api/gear/${gear.id}`, { baseRevision: revision, content: owned })).body.revision,
    ).toBe(revision + 1)
    expect(
      (await call('PUT', `/api/gear/${gear.id}`, { baseRevision: revision, content: owned })).body.revision,
    ).toBe(revision + 1)
    expect(
      (await call('PUT', `/api/gear/${gear.id}`, { baseRevision: revision, content: gear })).status,
    ).toBe(409)
    const odd = { ...gear, strips: [{ id: 'x', from: { port: 'nowhere' }, stages: [] }] }
    expect(
      (await call('PUT', `/api/gear/${gear.id}`, { baseRevision: revision + 1, content: odd })).status,
    ).toBe(422)
  })
})

describe('things of one\u2019s own', () => {
  const shelf = async (): Promise<Stored<Gear>[]> => (await call('GET', '/api/gear')).body
  const copyOf = async (from: string, to: string) => {
    const { content } = (await shelf()).find((each) => each.content.id === from)!
    return { ...content, id: to, name: `My ${content.name}` }
  }
  const made = (...gear: object[]) => gear.map((content) => ({ baseRevision: 0, content }))
  it('are put on the shelf once, however often they are sent, and taken off again', async () => {
    const mine = await copyOf('mini-pad-25', 'my-pad')
    const put = () => call('PUT', '/api/gear/my-pad', { baseRevision: 0, content: mine })
    expect((await put()).body).toEqual({ revision: 1 })
    expect((await put()).body.revision).toBe(1)
    expect(
      (await call('PUT', '/api/gear/my-pad', { baseRevision: 0, content: { ...mine, owned: 3 } })).status,
    ).toBe(409)
    expect((await call('GET', '/api/gear/my-pad/uses')).body).toEqual([])
    expect((await call('DELETE', '/api/gear/my-pad?revision=1')).body).toEqual({ gone: true, revision: 2 })
    expect((await call('DELETE', '/api/gear/my-pad?revision=1')).status).toBe(200)
    expect((await shelf()).some(({ content }) => content.id === 'my-pad')).toBe(false)
  })
  it('stay while a scene uses them, and the answer names the scenes', async () => {
    const { status, body } = await call('DELETE', '/api/gear/oriel-short-gun?revision=1')
    expect(status).toBe(422)
    expect(body.detail).toMatch(/used in The founder at the bench \(Boom\); The tuning/)
    expect((await call('GET', '/api/gear/oriel-short-gun/uses')).body[0]).toMatchObject({ as: ['Boom'] })
    // a lead has no name: it is named by what it joins
    expect((await call('GET', '/api/gear/xlr-cable-6m/uses')).body[0].as[0]).toBe('between Boom and Recorder')
    expect((await shelf()).some(({ content }) => content.id === 'oriel-short-gun')).toBe(true)
  })
  it('come together or not at all', async () => {
    const [one, other] = [await copyOf('mini-pad-25', 'first-pad'), await copyOf('mini-pad-40', 'second-pad')]
    const odd = { ...other, passive: { ...other.passive, ladder: { control: 'nowhere', at: {} } } }
    const refused = await call('POST', '/api/gear/import', { things: made(one, odd) })
    expect(refused.status).toBe(422)
    expect(refused.body.detail).toMatch(/nothing was stored/)
    expect((await shelf()).some(({ content }) => content.id === 'first-pad')).toBe(false)
    const { body } = await call('POST', '/api/gear/import', { things: made(one, other) })
    expect(body.map((each: Stored<Gear>) => each.revision)).toEqual([1, 1])
    const again = await call('POST', '/api/gear/import', {
      things: [{ baseRevision: 1, content: { ...one, owned: 4 } }],
    })
    expect(again.body).toEqual([{ revision: 2 }])
    expect((await shelf()).find(({ content }) => content.id === 'first-pad')!.content.owned).toBe(4)
  })
  it('come back from a file after they were deleted, and not by a change that comes late', async () => {
    const pad = await copyOf('mini-pad-25', 'gone-pad')
    const file = { things: made(pad) }
    await call('POST', '/api/gear/import', file)
    await call('DELETE', '/api/gear/gone-pad?revision=1')
    const late = await call('PUT', '/api/gear/gone-pad', { baseRevision: 0, content: pad })
    expect(late.status).toBe(409)
    for (let times = 0; times < 2; times++)
      expect((await call('POST', '/api/gear/import', file)).body).toEqual([{ revision: 3 }])
    expect((await shelf()).find(({ content }) => content.id === 'gone-pad')!.revision).toBe(3)
  })
  it.runIf(isLong)('may be as many as a file holds', { timeout: 60_000 }, async () => {
    const pad = await copyOf('mini-pad-25', 'x')
    const many = Array.from({ length: 2000 }, (_, index) => ({
      ...pad,
      id: `pad-${index}`,
      name: `Pad ${index}`,
    }))
    expect((await call('POST', '/api/gear/import', { things: made(...many) })).status).toBe(200)
    for (const { id: each } of many.slice(0, 3))
      expect((await call('DELETE', `/api/gear/${each}?revision=1`)).status).toBe(200)
  })
})

describe('safety', () => {
  it('sends security headers', async () => {
    const { headers } = await call('GET', '/api/shoots')
    expect(headers.get('content-security-policy')).toMatch(/default-src 'self'/)
    expect(headers.get('x-content-type-options')).toBe('nosniff')
    expect(headers.get('x-powered-by')).toBeNull()
  })
  it('makes one of two different things that are made under one id, and tells the other', async () => {
    const [gear] = (await call('GET', '/api/gear')).body as Stored<Gear>[]
    const own = (owned: number) => ({
      baseRevision: 0,
      content: { ...gear!.content, id: 'made-twice', name: 'Made twice', owned },
    })
    const answers = await Promise.all(
      [1, 2, 1, 3].map((owned) => call('PUT', '/api/gear/made-twice', own(owned))),
    )
    const [stored] = ((await call('GET', '/api/gear')).body as Stored<Gear>[]).filter(
      ({ content }) => content.id === 'made-twice',
    )
    for (const [index, { status }] of answers.entries())
      expect(status).toBe([1, 2, 1, 3][index] === stored!.content.owned ? 200 : 409)
    const [shoot] = (await call('GET', '/api/shoots')).body
    const at = `/api/scenes/${id()}`
    const made = (name: string) => call('PUT', at, { shoot: shoot.id, patch: { ...scene.patch, name } })
    expect((await made('One')).status).toBe(200)
    expect((await made('One')).status).toBe(200)
    expect((await made('Another')).status).toBe(409)
    await call('DELETE', at)
    await call('DELETE', '/api/gear/made-twice?revision=1')
  })
  it('shows what is stored and cannot be read apart from the rest, as it is stored', async () => {
    const document = JSON.stringify({ id: 'of-the-future', name: 'Of the future', colour: 'blue' })
    // the first of all kinds
    const row = { id: 'of-the-future', name: 'Of the future', maker: 'm', kind: 'a', owned: 0, revision: 1 }
    await db
      .insertInto('gear')
      .values({ ...row, document })
      .execute()
    const { status, body } = await call('GET', '/api/gear?limit=10')
    expect(status).toBe(200)
    // its place on the page stays empty
    expect(body).toHaveLength(9)
    const [apart, ...more] = (await call('GET', '/api/unreadable')).body
    expect(more).toEqual([])
    expect(apart).toMatchObject({
      kind: 'gear',
      id: 'of-the-future',
      content: { document: { colour: 'blue' } },
    })
    expect(apart.why).toMatch(/^The stored thing was refused: /)
    await db.deleteFrom('gear').where('id', '=', 'of-the-future').execute()
  })
  it('sends answers compressed to those that take them so', async () => {
    expect((await call('GET', '/api/gear')).headers.get('content-encoding')).toBe('gzip')
    const plain = await call('GET', '/api/gear', undefined, { 'accept-encoding': 'identity' })
    expect(plain.headers.get('content-encoding')).toBe(null)
  })
  it('sends the script as it was compressed when it was built', async () => {
    const web = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-web-'))
    const script = 'export const here = true\n'.repeat(100)
    writeFileSync(path.join(web, 'index.js'), script)
    writeFileSync(path.join(web, 'index.js.gz'), gzipSync(script))
    const page = createApp({ db, log: pino({ level: 'silent' }), web }).listen(0, '127.0.0.1')
    await new Promise((resolve) => page.once('listening', resolve))
    const answer = await fetch(`http://127.0.0.1:${(page.address() as AddressInfo).port}/index.js`)
    expect(answer.headers.get('content-encoding')).toBe('gzip')
    expect(answer.headers.get('content-type')).toMatch(/javascript/)
    expect(await answer.text()).toBe(script)
    page.close()
    rmSync(web, { recursive: true })
  })
  it('lets no other site write, nor any other name reach it', async () => {
    expect(
      (
        await call('DELETE', `/api/takes/${id()}?revision=1`, undefined, {
          origin: 'http://elsewhere.example',
        })
      ).status,
    ).toBe(403)
    const status = await new Promise((resolve) => {
      http.get(`${base}/api/shoots`, { headers: { host: 'elsewhere.example' } }, (response) =>
        resolve(response.resume().statusCode),
      )
    })
    expect(status).toBe(403)
  })
  it('serves the schemas of its files, each under its own name', async () => {
    const { body } = await call('GET', '/api/schemas/patch.schema.json')
    expect(body.$id).toBe('urn:iron-hush:schema:patch:1')
    expect(Object.keys(body.$defs as object)).toContain('Port')
    expect((await call('GET', '/api/schemas/toString.schema.json')).status).toBe(404)
  })
  it('describes every route it has', async () => {
    const { body } = await call('GET', '/api/openapi.json')
    const described = Object.entries<object>(body.paths).flatMap(([address, methods]) =>
      Object.keys(methods).map((method) => `${method} ${address}`),
    )
    expect(described.sort()).toEqual(
      allRoutes()
        .map(({ request: { method, path: address } }) => `${method} ${address.replace(/:(\w+)/g, '{$1}')}`)
        .sort(),
    )
    expect(body.paths['/api/scenes/{id}/edits'].post.responses['409']).toBeDefined()
  })
})
