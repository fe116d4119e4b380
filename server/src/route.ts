import type { RequestHandler } from 'express'
import type { AnswerOf, QueryOf, Request } from '@iron-hush/core/contract'
import { currentFormat, parse, Uuid } from '@iron-hush/core/model'
import type { z } from 'zod'
import type { Database } from './database'
import { type Page, type PageAsked, pageAsked } from './paging'
import { notFound } from './problem'

type ParsedBody<R extends Request> = R['body'] extends z.ZodType ? z.output<R['body']> : undefined

export interface Call<R extends Request> {
  db: Database
  id: string
  body: ParsedBody<R>
  query: QueryOf<R>
  /** Of a list that is answered in pages. */
  page: PageAsked
}

/** A request of the contract, with its handler. */
export interface Route<R extends Request = Request> {
  request: R
  handle: (call: Call<R>) => Promise<{ answer: AnswerOf<R>; next?: string }>
}

export const fulfil = <R extends Request>(
  request: R,
  handle: (call: Call<R>) => Promise<AnswerOf<R>>,
): Route =>
  // a route is called only with the body of its own request
  ({ request, handle: async (call) => ({ answer: await handle(call as unknown as Call<R>) }) })

/** The same for a list that is answered in pages. */
export const fulfilPaged = <R extends Request<undefined, z.ZodArray>>(
  request: R,
  handle: (call: Call<R>) => Promise<Page<AnswerOf<R>[number]>>,
): Route => ({
  request,
  async handle(call) {
    const { rows, next } = await handle(call as unknown as Call<R>)
    return { answer: rows, next }
  },
})

/** Parses a request by the contract, and answers. A page of the previous release may still be open. */
export function handlerOf({ request, handle }: Route, db: Database): RequestHandler {
  return async ({ params, body, query: asked, path }, response) => {
    const read = (request.ids ?? Uuid).safeParse(params.id)
    if (params.id !== undefined && !read.success) throw notFound('This address')
    const page = pageAsked(request.paged ? asked : {}, request.paged?.limit ?? 1)
    const { answer, next } = await handle({
      db,
      id: read.data ?? '',
      body: (request.body
        ? parse(request.body, currentFormat(body), 'This request')
        : undefined) as Call<Request>['body'],
      query: (request.query ? parse(request.query, asked, 'This request') : undefined) as never,
      page,
    })
    // the address of the next page (RFC 8288)
    if (next) response.set('Link', `<${path}?limit=${page.limit}&after=${next}>; rel="next"`)
    response.set('Cache-Control', 'no-store').json(answer)
  }
}
