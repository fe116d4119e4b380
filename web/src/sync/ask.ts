import { defineStore } from 'pinia'
import {
  addressOf,
  type AnswerOf,
  type BodyOf,
  Problem,
  type QueryOf,
  type Request,
} from '@iron-hush/core/contract'
import { useNotices } from '../state/notices'

/** The server could not be reached, or failed: what was to be sent is kept and tried again. */
export class ServerAway extends Error {
  constructor(
    sentence: string,
    /** Its answer, if any. */
    readonly status?: number,
  ) {
    super(sentence)
  }
}

/** The server answered with a problem; its detail is written for a person. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail)
  }
}

/** Options of a request. */
interface Asked<R extends Request> {
  id?: string
  body?: BodyOf<R>
  query?: QueryOf<R>
}

/** An answer, and where the next page of it is. */
interface Answered<R extends Request> {
  answer: AnswerOf<R>
  next?: string
}
/** Requests made before they are needed, by address. Each answer is used once. */
const ahead = new Map<string, Promise<Answered<Request>>>()

/** Asks for what will be needed in a moment: the same question then has this answer. */
export function askAhead<R extends Request>(request: R, asked: Asked<R> = {}): void {
  const address = addressWith(request, asked)
  const answered = askAt(request, address)
  // it fails where it is needed
  answered.catch(() => undefined)
  ahead.set(address, answered)
}

/** Drops what was asked for ahead and nobody needed: an hour later it would be an old answer. */
export const forgetAhead = (): void => ahead.clear()

/** Asks the server by the contract; the answer goes through its schema. Throws ServerAway or Refused. */
export async function ask<R extends Request>(request: R, asked: Asked<R> = {}): Promise<AnswerOf<R>> {
  return (await askOnce(request, addressWith(request, asked), asked.body)).answer
}

function addressWith<R extends Request>(request: R, { id, query }: Asked<R>): string {
  const address = addressOf(request, id === undefined ? {} : { id })
  return query === undefined ? address : `${address}?${new URLSearchParams(query as Record<string, string>)}`
}
function askOnce<R extends Request>(request: R, address: string, body?: unknown): Promise<Answered<R>> {
  const early = ahead.get(address) as Promise<Answered<R>> | undefined
  ahead.delete(address)
  return early ?? askAt(request, address, body)
}

/** Awaited between two pages of a list, to let other work go first. */
export type Between = () => Promise<unknown>

/** A list that the server answers in pages, one page after another until it is whole. */
export async function askAll<R extends Request>(
  request: R,
  asked: Asked<R> = {},
  between?: Between,
): Promise<AnswerOf<R>> {
  const all: unknown[] = []
  let next: string | undefined = addressWith(request, asked)
  while (next !== undefined) {
    const page: Answered<R> = await askOnce(request, next)
    all.push(...(page.answer as unknown[]))
    if (page.next !== undefined) await between?.()
    next = page.next?.replace(/limit=\d+/, `limit=${between ? gentlePages : laterPages}`)
  }
  return all as AnswerOf<R>
}

/** Says once that this device may not come in (any more), and how it may. */
const useShutOut = defineStore('shut out', () => {
  let said = false
  function notice(sentence: string): void {
    if (said) return
    said = true
    if (location.protocol === 'https:')
      useNotices().offer(`${sentence} What you changed is kept here.`, 'Pair', () => location.assign('/pair'))
    else useNotices().say(sentence)
  }
  return { notice }
})

/** The first page is small, so that something is shown soon; later ones may take longer. */
const laterPages = 1000
/** Size of later pages, small enough that reading one does not delay whoever is working. */
const gentlePages = 250

/** Pages of lists as they were last answered, by address: that one is still so the server says in a few bytes. */
const pages = new Map<string, { etag: string; page: Answered<Request> }>()
const mostPages = 50
function keepPage(address: string, page: Answered<Request>, etag: string | null): void {
  pages.delete(address)
  if (etag === null) return
  pages.set(address, { etag, page })
  for (const [oldest] of pages) if (pages.size > mostPages) pages.delete(oldest)
}

async function askAt<R extends Request>(request: R, address: string, body?: unknown): Promise<Answered<R>> {
  const known = request.paged && pages.get(address)
  const response = await fetch(address, {
    method: request.method.toUpperCase(),
    headers: {
      ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
      // with an explicit Cache-Control: the browser's own would ask for the whole answer
      ...(known ? { 'If-None-Match': known.etag, 'Cache-Control': 'max-age=0' } : {}),
    },
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => {
    throw new ServerAway('The server cannot be reached.')
  })
  if (known && response.status === 304) return known.page as Answered<R>
  const content: unknown = await response.json().catch(() => undefined)
  if (response.ok) {
    const answer = request.answer.parse(content) as AnswerOf<R>
    const next = /<([^>]+)>;\s*rel="next"/.exec(response.headers.get('Link') ?? '')?.[1]
    if (request.paged) keepPage(address, { answer, next }, response.headers.get('ETag'))
    return { answer, next }
  }
  const problem = Problem.safeParse(content)
  // parcels waiting here are kept until the device has access again
  if (problem.success && response.status === 401) {
    useShutOut().notice(problem.data.detail)
    throw new ServerAway(problem.data.detail, 401)
  }
  if (!problem.success || response.status >= 500 || response.status === 429)
    throw new ServerAway('The server failed at this for the moment.', response.status)
  throw new Refused(response.status, problem.data)
}
