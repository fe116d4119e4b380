import type { AddressInfo } from 'node:net'
import net from 'node:net'
import type { Server } from 'node:http'
import path from 'node:path'
import { gzipSync } from 'node:zlib'
import fc from 'fast-check'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { SceneDocument, Stored } from '@iron-hush/core/contract'
import { type Gear, uuidv7 } from '@iron-hush/core/model'
import { createApp } from './app'
import type { Database } from './database'
import { loadDemo } from './demo'
import { migrate } from './migrate'
import { measured } from './tests/measured'
import { freshDatabase } from './tests/fresh-database'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

let db: Database
let server: Server
let port: number
let scene: SceneDocument
let shoot: string
let gear: Gear

const send = (method: string, address: string, body?: BodyInit, headers: Record<string, string> = {}) =>
  fetch(`http://127.0.0.1:${port}${address}`, {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    ...(body === undefined ? {} : { body }),
  })
const read = async <T>(address: string) => (await (await send('GET', address)).json()) as T

beforeAll(async () => {
  db = await freshDatabase()
  await migrate(db)
  await loadDemo(db, path.resolve(import.meta.dirname, '../../demo'))
  const app = createApp({ db, log: pino({ level: 'silent' }), requestsPerMinute: 1e6 })
  server = app.listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  port = (server.address() as AddressInfo).port
  const [first] = await read<{ id: string; scenes: { id: string }[] }[]>('/api/shoots')
  shoot = first!.id
  scene = await read<SceneDocument>(`/api/scenes/${first!.scenes[0]!.id}`)
  gear = (await read<Stored<Gear>[]>('/api/gear'))[0]!.content
})
afterAll(async () => {
  server.close()
  await db.destroy()
})

/** Sound requests, one of each kind that has a body. */
const sound = (): { method: string; address: string; body: unknown }[] => {
  const take = id()
  const proof = id()
  const now = new Date().toISOString()
  const mark = { id: id(), kind: 'wind', atS: 3, channel: '', note: 'gust' }
  const content = {
    id: take,
    scene: scene.id,
    number: Math.floor(Math.random() * 9000) + 1,
    startedAt: now,
    endedAt: now,
    verdict: 'good',
    note: 'n',
    marks: [mark],
  }
  const channel = {
    peakDbfs: -3,
    peakAtS: 1,
    rmsDbfs: -20,
    speechDbfsA: -22,
    noiseDbfsA: -60,
    pauses: true,
    clipped: [],
    clippedMore: 0,
    worstPeak: [0, 0.5],
    envelope: [[-0.5, 0.5]],
  }
  const measurement = { ...measured, channels: [channel] }
  const mine = { ...gear, id: `own-${take.slice(0, 8)}${take.slice(-4)}`, name: `Own ${take}` }
  return [
    { method: 'PUT', address: `/api/takes/${take}`, body: { baseRevision: 0, content } },
    {
      method: 'PUT',
      address: `/api/proofs/${proof}`,
      body: {
        baseRevision: 0,
        content: { id: proof, scene: scene.id, recording: '', measuredAt: now, measurement },
      },
    },
    { method: 'PUT', address: `/api/gear/${mine.id}`, body: { baseRevision: 0, content: mine } },
    { method: 'POST', address: '/api/gear/import', body: { gear: [mine, { ...mine }] } },
    {
      method: 'PUT',
      address: `/api/shoots/${id()}`,
      body: { name: 'Shoot', date: '2026-11-28', place: 'a yard' },
    },
    { method: 'PUT', address: `/api/scenes/${id()}`, body: { shoot, patch: scene.patch } },
    { method: 'PUT', address: `/api/scenes/${scene.id}/place`, body: { shoot, position: 0 } },
    {
      method: 'POST',
      address: `/api/scenes/${scene.id}/edits`,
      body: { id: id(), baseRevision: scene.revision, edits: [{ kind: 'rename', name: 'Bench' }] },
    },
  ]
}

/** What is put in place of something sound. */
const odd: unknown[] = [
  '\u0000',
  'a\u0000b',
  '\uD800',
  'x\uDFFF',
  '',
  ' ',
  '0000-01-01T00:00:00Z',
  '9999-12-31T23:59:59.9999999Z',
  '2026-02-30',
  'x'.repeat(70_000),
  '__proto__',
  2 ** 31,
  2 ** 53,
  -1,
  1e308,
  0.5,
  null,
  true,
  [],
  {},
  [[[[[]]]]],
]

/** The paths to everything inside a value. */
const pathsIn = (value: unknown, here: (string | number)[] = []): (string | number)[][] => [
  here,
  ...(value !== null && typeof value === 'object'
    ? Object.entries(value).flatMap(([name, each]) => pathsIn(each, [...here, name]))
    : []),
]
function withOdd(value: unknown, [first, ...rest]: (string | number)[], put: unknown): unknown {
  if (first === undefined) return put
  const copy = Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }
  ;(copy as Record<string, unknown>)[first] = withOdd((value as Record<string, unknown>)[first], rest, put)
  return copy
}

/** Everything that is listed can still be read. */
async function expectReadable(): Promise<void> {
  for (const address of [
    '/api/shoots',
    '/api/gear',
    `/api/scenes/${scene.id}`,
    `/api/scenes/${scene.id}/takes`,
    `/api/scenes/${scene.id}/proofs`,
  ])
    expect((await send('GET', address)).status, address).toBe(200)
}

describe('what cannot be used is refused, and the server never fails at it', () => {
  it('takes the sound requests that the odd ones are made from', async () => {
    for (const { method, address, body } of sound())
      expect((await send(method, address, JSON.stringify(body))).status, `${method} ${address}`).toBeLessThan(
        300,
      )
  })
  it('anything odd anywhere in a body', { timeout: 120_000 }, async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.nat({ max: 7 }),
        fc.double({ min: 0, max: 0.9999, noNaN: true }),
        fc.constantFrom(...odd),
        async (which, where, put) => {
          const { method, address, body } = sound()[which]!
          const paths = pathsIn(body)
          const changed = withOdd(body, paths[Math.floor(where * paths.length)]!, put)
          const answer = await send(method, address, JSON.stringify(changed))
          const said = await answer.text()
          expect(answer.status, `${method} ${address}: ${said}`).toBeLessThan(500)
          if (answer.status >= 400)
            expect((JSON.parse(said) as { detail: string }).detail).toMatch(/^[A-Z].*\.$/s)
        },
      ),
      { numRuns: 500, seed: 1 },
    )
    await expectReadable()
  })
  it.each(['%00', '%zz', '%ff', '..%2f..%2f', '%F0%9F%94%94', 'x'.repeat(500)])(
    'an address with %s',
    async (part) => {
      for (const address of [`/api/scenes/${part}`, `/api/gear/${part}`, `/${part}`])
        expect((await send('GET', address)).status).toBeLessThan(500)
    },
  )
  it.each([
    ['letters that are not UTF-8', { 'content-type': 'application/json; charset=utf-7' }, '{}'],
    ['a way of packing that is not known', { 'content-encoding': 'zz' }, '{}'],
    ['gzip that is broken', { 'content-encoding': 'gzip' }, gzipSync('{"a":1}').subarray(0, 12)],
    ['no gzip at all', { 'content-encoding': 'gzip' }, 'plain'],
    ['half a document', {}, '{"baseRevision":'],
    ['a number', {}, '17'],
    ['bytes', {}, new Uint8Array([0xff, 0xfe, 0x00])],
    ['a range', { range: 'bytes=9-2' }, '{}'],
    ['another kind', { 'content-type': 'text/plain' }, 'x'],
  ] as [string, Record<string, string>, BodyInit][])('a body of %s', async (_name, headers, body) => {
    const answer = await send('PUT', `/api/takes/${id()}`, body, headers)
    expect(answer.status).toBeGreaterThanOrEqual(400)
    expect(answer.status).toBeLessThan(500)
    expect(answer.headers.get('content-type')).toMatch(/problem\+json/)
  })
  it('a request that is given up half-way', async () => {
    const socket = net.connect(port, '127.0.0.1')
    socket.write(
      `PUT /api/takes/${id()} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\nContent-Length: 5000\r\n\r\n{"a":`,
    )
    await new Promise((resolve) => setTimeout(resolve, 50))
    socket.destroy()
    await expectReadable()
  })
})
