import { execFileSync, spawn } from 'node:child_process'
import http from 'node:http'
import https from 'node:https'
import type { AddressInfo } from 'node:net'
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Sharing } from '@iron-hush/core/contract'
import { certificateFor } from '../../../tools/authority.mjs'
import { createApp } from '../app'
import { Changes } from '../changes'
import { type Serving, serving } from '../tests/serving'
import { Pairing } from './pairing'
import { Sharer } from './sharing'

const log = pino({ level: 'silent' })
let at: Serving
beforeAll(async () => {
  at = await serving()
})
afterAll(() => at.close())

const portOf = (server: http.Server) => (server.address() as AddressInfo).port
async function listening(server: http.Server): Promise<http.Server> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return server
}

describe('on this machine', () => {
  const me = process.getuid!()
  const openFor = (owner: number) =>
    listening(http.createServer(createApp({ db: at.db, log, access: { owner, key: 'the-key' } })))
  const statusAt = async (port: number, address = '/api/shoots', headers = {}) =>
    (await fetch(`http://127.0.0.1:${port}${address}`, { headers, redirect: 'manual' })).status

  it('the user who started it is asked nothing', async () => {
    const server = await openFor(me)
    expect(await statusAt(portOf(server))).toBe(200)
    server.close()
  })
  it.runIf(me === 0)('another user of the machine gets 401, whatever they ask', async () => {
    const server = await openFor(1234)
    const script = `fetch('http://127.0.0.1:${portOf(server)}/api/shoots').then((answer) => process.stdout.write(String(answer.status)))`
    const nobody = Number(execFileSync('id', ['-u', 'nobody'], { encoding: 'utf8' }))
    // the server must answer meanwhile
    const said = await new Promise<string>((resolve) => {
      const child = spawn(process.execPath, ['-e', script], { uid: nobody })
      let output = ''
      child.stdout.on('data', (part: Buffer) => (output += part.toString()))
      child.on('close', () => resolve(output))
    })
    expect(said).toBe('401')
    server.close()
  })
  it('the key in the opened address lets in where the kernel says nothing, and stays in a cookie', async () => {
    // nobody has this number: neither this process nor root
    const server = await listening(
      http.createServer((request, response) => {
        // as if the kernel did not say
        Object.defineProperty(request.socket, 'remotePort', { value: undefined, configurable: true })
        createApp({ db: at.db, log, access: { owner: 4321, key: 'the-key' } })(request, response)
      }),
    )
    const port = portOf(server)
    expect(await statusAt(port)).toBe(401)
    expect(await statusAt(port, '/api/shoots?key=wrong')).toBe(401)
    const opened = await fetch(`http://127.0.0.1:${port}/api/shoots?key=the-key`, { redirect: 'manual' })
    expect(opened.status).toBe(303)
    expect(opened.headers.get('location')).toBe('/api/shoots')
    const cookie = opened.headers.get('set-cookie')!
    expect(cookie).toMatch(/HttpOnly/)
    expect(cookie).toMatch(/SameSite=Strict/)
    expect(await statusAt(port, '/api/shoots', { cookie: cookie.split(';')[0]! })).toBe(200)
    server.close()
  })
})

describe('in the local network', () => {
  const home = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-share-'))
  let own: http.Server
  let shared: https.Server
  let ca: string
  let nowMs = Date.now()
  beforeAll(async () => {
    const made = await certificateFor(home, ['127.0.0.1', 'localhost'])
    ca = made.authority
    let app: http.RequestListener = () => undefined
    shared = https.createServer({ key: made.key, cert: made.certificate }, (request, response) =>
      app(request, response),
    )
    await listening(shared as unknown as http.Server)
    const authority = { certificate: ca, fingerprint: made.fingerprint }
    const addresses = [`https://localhost:${portOf(shared)}`, 'https://sound.example']
    const sharer = new Sharer({ addresses, authority }, new Pairing(() => nowMs))
    app = createApp({ db: at.db, log, sharer, changes: new Changes('') })
    own = await listening(http.createServer(app))
  })
  afterAll(() => {
    own.close()
    shared.close()
    rmSync(home, { recursive: true })
  })

  interface Asked {
    method?: string
    cookie?: string
    body?: string
    headers?: Record<string, string>
  }
  /** Asks over TLS as a phone does that trusts the authority. */
  const phone = (address: string, { method = 'GET', cookie, body, headers = {} }: Asked = {}) =>
    new Promise<{ status: number; text: string; headers: http.IncomingHttpHeaders }>((resolve, reject) => {
      const request = https.request(
        `https://localhost:${portOf(shared)}${address}`,
        { method, ca, headers: { ...(cookie ? { cookie } : {}), ...headers } },
        (response) => {
          let text = ''
          response.on('data', (part: Buffer) => (text += part.toString()))
          response.on('end', () => resolve({ status: response.statusCode!, text, headers: response.headers }))
        },
      )
      request.on('error', reject)
      request.end(body)
    })
  const laptop = async (method: string, address: string) =>
    Sharing.parse(await (await fetch(`http://127.0.0.1:${portOf(own)}${address}`, { method })).json())
  const pair = (code: string, name = 'My phone') =>
    phone('/pair', {
      method: 'POST',
      body: new URLSearchParams({ code, name }).toString(),
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
    })
  const cookieOf = (answer: { headers: http.IncomingHttpHeaders }) => answer.headers['set-cookie']![0]!

  it('nobody gets anything but the pairing page without pairing', async () => {
    for (const address of ['/', '/gear', '/assets/index.js', '/scene/x/levels']) {
      const answer = await phone(address)
      expect([answer.status, answer.headers.location], address).toEqual([303, '/pair'])
    }
    for (const address of ['/api/shoots', '/api/gear', '/api/changes', '/api/openapi.json', '/api/sharing'])
      expect((await phone(address)).status, address).toBe(401)
    expect((await phone('/api/demo', { method: 'POST' })).status).toBe(401)
    expect((await phone('/pair/../api/shoots')).status).not.toBe(200)
    const page = await phone('/pair')
    expect(page.text).toMatch(/Code on the laptop/)
    expect((await phone('/pair/authority.crt')).text).toBe(ca)
  })
  it('a code from the laptop lets one device in, once, with a cookie that scripts and other sites never see', async () => {
    const { code } = await laptop('POST', '/api/sharing/code')
    const paired = await pair(code!.digits)
    expect([paired.status, paired.headers.location]).toEqual([303, '/'])
    for (const flag of ['HttpOnly', 'Secure', 'SameSite=Strict', 'Path=/'])
      expect(cookieOf(paired)).toContain(flag)
    const cookie = cookieOf(paired).split(';')[0]!
    expect((await phone('/api/shoots', { cookie })).status).toBe(200)
    expect((await pair(code!.digits)).status).toBe(403)
    // a device lets no other in
    for (const method of ['GET', 'POST'])
      expect((await phone('/api/sharing/code', { method, cookie })).status).toBe(403)
    const stored = await at.db.selectFrom('devices').select('secret_digest').execute()
    expect(stored.map((row) => row.secret_digest)).not.toContain(cookie.split('=')[1])
    // another site open on the phone
    const origin = 'https://elsewhere.example'
    expect((await phone('/api/demo', { method: 'POST', cookie, headers: { origin } })).status).toBe(403)
    // shut out again
    const { devices } = await laptop('GET', '/api/sharing')
    expect(devices.map(({ name }) => name)).toEqual(['My phone'])
    expect((await laptop('DELETE', `/api/sharing/devices/${devices[0]!.id}`)).devices).toEqual([])
    expect((await phone('/api/shoots', { cookie })).status).toBe(401)
  })
  it('a code is over after two minutes, and five wrong ones lock for a while', async () => {
    const late = (await laptop('POST', '/api/sharing/code')).code!
    nowMs += 2 * 60_000
    expect((await laptop('GET', '/api/sharing')).code).toBe(null)
    const wrong = late.digits === '000000' ? '000001' : '000000'
    // the one above that was used up counts too
    expect((await pair(late.digits)).status).toBe(403)
    for (let tries = 0; tries < 2; tries++) expect((await pair(wrong)).status).toBe(403)
    const fresh = (await laptop('POST', '/api/sharing/code')).code!
    const fifth = fresh.digits === wrong ? '000002' : wrong
    expect((await pair(fifth)).status).toBe(429)
    expect((await pair(fresh.digits)).status).toBe(429)
    expect((await laptop('GET', '/api/sharing')).lockedUntil).not.toBe(null)
    nowMs += 5 * 60_000
    const again = (await laptop('POST', '/api/sharing/code')).code!
    expect((await pair(again.digits, ' ')).status).toBe(303)
  })
  it('a stated proxy is the same door, and any other name none', async () => {
    const by = (host: string, headers = {}) =>
      new Promise<number>((resolve) => {
        http.get(
          `http://127.0.0.1:${portOf(own)}/api/shoots`,
          { headers: { host, ...headers } },
          (response) => resolve(response.resume().statusCode!),
        )
      })
    expect(await by('sound.example')).toBe(401)
    const { code } = await laptop('POST', '/api/sharing/code')
    const cookie = cookieOf(await pair(code!.digits)).split(';')[0]!
    expect(await by('sound.example', { cookie })).toBe(200)
    expect(await by('elsewhere.example', { cookie })).toBe(403)
    // the loopback names are nobody's by TLS
    expect((await phone('/api/shoots', { headers: { host: '127.0.0.1' } })).status).toBe(403)
  })
})
