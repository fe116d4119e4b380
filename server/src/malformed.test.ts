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
import { cases } from '../../core/src/tests/form'
import { createApp } from './app'
import type { Database } from './database'
import { loadDemo } from './demo'
import { migrate } from './migrate'
import { freshDatabase } from './tests/fresh-database'
import { odd, oddRequest, soundRequests } from './tests/odd-requests'

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

const sound = () => soundRequests({ scene, shoot, gear })

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
          const { method, address, body } = oddRequest(sound()[which]!, where, put)
          const answer = await send(method, address, JSON.stringify(body))
          const said = await answer.text()
          expect(answer.status, `${method} ${address}: ${said}`).toBeLessThan(500)
          if (answer.status >= 400)
            expect((JSON.parse(said) as { detail: string }).detail).toMatch(/^[A-Z].*\.$/s)
        },
      ),
      { numRuns: cases(500, 100), seed: 1 },
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
