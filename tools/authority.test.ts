import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs'
import https from 'node:https'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { certificateFor } from './authority.mjs'

describe('the authority of a home', () => {
  const home = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-authority-'))
  let first: Awaited<ReturnType<typeof certificateFor>>
  let server: https.Server
  beforeAll(async () => {
    first = await certificateFor(home, ['127.0.0.1', 'foundry.local'])
    server = https.createServer({ key: first.key, cert: first.certificate }, (_request, response) =>
      response.end('here'),
    )
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  })
  afterAll(() => {
    server.close()
    rmSync(home, { recursive: true })
  })

  const asked = (options: https.RequestOptions) =>
    new Promise<string>((resolve, reject) => {
      https
        .get({ host: '127.0.0.1', port: (server.address() as AddressInfo).port, ...options }, (response) =>
          response.on('data', (part: Buffer) => resolve(part.toString())),
        )
        .on('error', (error) => resolve(error.message))
        .on('error', reject)
    })

  it('is believed by whoever trusts it, for the addresses it was made for and no others', async () => {
    expect(await asked({ ca: first.authority })).toBe('here')
    expect(await asked({ ca: first.authority, servername: 'foundry.local' })).toBe('here')
    expect(await asked({ ca: first.authority, servername: 'elsewhere.example' })).toMatch(/does not match/)
    expect(await asked({})).toMatch(/unable to verify|self-signed/)
  })
  it('stays the same for new addresses, and its key is its owner’s alone', async () => {
    const second = await certificateFor(home, ['10.0.0.7'])
    expect(second.fingerprint).toBe(first.fingerprint)
    expect(second.fingerprint).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)
    expect(second.key).not.toBe(first.key)
    const folder = path.join(home, 'authority')
    for (const file of readdirSync(folder)) expect(statSync(path.join(folder, file)).mode & 0o077).toBe(0)
  })
})
