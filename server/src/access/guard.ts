import { timingSafeEqual } from 'node:crypto'
import type { Socket } from 'node:net'
import { parse as parseCookies } from 'cookie'
import express, { type Express, type Request, type RequestHandler, type Response } from 'express'
import { cutToName } from '@iron-hush/core/model'
import type { Database } from '../database'
import { HttpProblem } from '../problem'
import { addDevice, deviceOf } from './devices'
import { localUserOf } from './local-user'
import { pairPage } from './pair-page'
import type { Sharer } from './sharing'

/** Who may come in. */
export interface Access {
  /** The user who started it, and nobody else on this machine; left out: anyone on this machine. */
  owner?: number
  /** Opens it for the owner where the kernel does not say who asks. */
  key?: string
}

const keyCookie = 'iron_hush_key'
const deviceCookie = '__Host-iron_hush_device'
const monthsMs = 180 * 24 * 3600 * 1000

/**
 * Two doors. From this machine, by its own names: open for the user who started it. From the local network or behind a
 * stated proxy: for paired devices. Other sites open in the same browser can neither read nor change anything, even by
 * pointing a name of their own here.
 */
export function guard(
  app: Express,
  { db, access, sharer }: { db: Database; access: Access; sharer: Sharer },
): void {
  const shared = new Set((sharer.shared?.addresses ?? []).map((address) => new URL(address).host))
  const own = ownDoor(access)
  const others = sharedDoor(db)
  app.use((request, response, next) => {
    const host = request.headers.host ?? ''
    const isShared = shared.has(host)
    const isOwn = !isShared && !('encrypted' in request.socket) && ownNames.test(host)
    if (!isShared && !isOwn)
      throw new HttpProblem(403, 'Not from here', 'Iron Hush is not served under this host name.')
    const { origin } = request.headers
    if (
      origin !== undefined &&
      request.method !== 'GET' &&
      origin !== `${isShared ? 'https' : 'http'}://${host}`
    )
      throw new HttpProblem(403, 'Not from here', 'Changes are accepted from the pages of Iron Hush only.')
    if (isOwn) return own(request, response, next)
    if (/^\/pair(\/|$)/.test(request.path)) return next()
    return others(request, response, next)
  })
  if (sharer.shared) servePairing(app, db, sharer)
}

const ownNames = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/

function ownDoor({ owner, key = '' }: Access): RequestHandler {
  /** Asked once for each connection: it stays with the program that opened it. */
  const known = new WeakMap<Socket, boolean>()
  const isOwners = (socket: Socket): boolean => {
    const user = localUserOf(socket)
    // root may read everything here anyway
    return user !== undefined && (user === owner || user === 0)
  }
  return (request, response, next) => {
    if (owner === undefined) return next()
    const { socket } = request
    const owners = known.get(socket) ?? isOwners(socket)
    known.set(socket, owners)
    if (owners || sameText(cookieIn(request, keyCookie), key)) return next()
    const url = new URL(request.originalUrl, 'http://here')
    if (request.method === 'GET' && sameText(url.searchParams.get('key') ?? '', key)) {
      url.searchParams.delete('key')
      response.cookie(keyCookie, key, { httpOnly: true, sameSite: 'strict', maxAge: monthsMs })
      return response.redirect(303, url.pathname + url.search)
    }
    throw new HttpProblem(
      401,
      'Not yours',
      'Iron Hush was started by another user of this machine. Open the address with the key that npm start printed.',
    )
  }
}

function sharedDoor(db: Database): RequestHandler {
  return async (request, response, next) => {
    const secret = cookieIn(request, deviceCookie)
    const device = secret ? await deviceOf(db, secret) : undefined
    if (!device) {
      if (request.method === 'GET' && !request.path.startsWith('/api')) return response.redirect(303, '/pair')
      throw new HttpProblem(401, 'Not paired', 'This device is not paired. Pair it at /pair.')
    }
    if (request.path.startsWith('/api/sharing'))
      throw new HttpProblem(403, 'Not from here', 'Devices are paired and removed on the laptop itself.')
    response.locals.device = device.id
    next()
  }
}

function servePairing(app: Express, db: Database, sharer: Sharer): void {
  const page = (response: Response, status: number, said?: string) =>
    response.status(status).set('Cache-Control', 'no-store').send(pairPage(sharer.shared, said))
  app.get('/pair', (_request, response) => void page(response, 200))
  app.get('/pair/authority.crt', (_request, response) => {
    const certificate = sharer.shared?.authority?.certificate
    if (!certificate) throw new HttpProblem(404, 'Not there', 'There is no certificate to trust here.')
    response
      .type('application/x-x509-ca-cert')
      .set('Content-Disposition', 'attachment; filename=iron-hush.crt')
    response.send(certificate)
  })
  app.post('/pair', express.urlencoded({ extended: false, limit: '2kb' }), async (request, response) => {
    const { code = '', name = '' } = (request.body ?? {}) as Record<string, unknown>
    const outcome = sharer.pairing.attempt(typeof code === 'string' ? code : '')
    if (outcome === 'locked')
      return page(
        response,
        429,
        'Too many wrong codes. Wait five minutes, then get a new code on the laptop.',
      )
    if (outcome === 'wrong')
      return page(response, 403, 'This code is wrong or older than two minutes. Get a new one on the laptop.')
    const called = cutToName(typeof name === 'string' ? name : '') || 'Phone'
    const secret = await addDevice(db, called)
    response.cookie(deviceCookie, secret, {
      httpOnly: true,
      secure: true,
      sameSite: 'strict',
      path: '/',
      maxAge: monthsMs,
    })
    return response.redirect(303, '/')
  })
}

function cookieIn(request: Request, name: string): string {
  return parseCookies(request.headers.cookie ?? '')[name] ?? ''
}

/** Compares in constant time, so that timing reveals nothing. */
function sameText(one: string, other: string): boolean {
  const [a, b] = [Buffer.from(one), Buffer.from(other)]
  return other !== '' && a.length === b.length && timingSafeEqual(a, b)
}
