import type { RequestHandler } from 'express'
import type { AnswerOf, Request } from '@iron-hush/core/contract'
import { currentFormat, parse, Uuid } from '@iron-hush/core/model'
import type { z } from 'zod'
import type { Database } from './database'
import { notFound } from './problem'

type ParsedBody<R extends Request> = R['body'] extends z.ZodType ? z.output<R['body']> : undefined

export interface Call<R extends Request> {
  db: Database
  id: string
  body: ParsedBody<R>
}

/** A request of the contract, and what fulfils it. */
export interface Route<R extends Request = Request> {
  request: R
  handle: (call: Call<R>) => Promise<AnswerOf<R>>
}

export const fulfil = <R extends Request>(request: R, handle: Route<R>['handle']): Route =>
  // a route is only ever called with the body of its own request
  ({ request, handle })

/** Parses what comes in by the contract, and answers. A page of the release before may still be open. */
export function handlerOf({ request, handle }: Route, db: Database): RequestHandler {
  return async ({ params, body }, response) => {
    const { id = '' } = params as Record<string, string>
    if (params.id !== undefined && !(request.ids ?? Uuid).safeParse(id).success)
      throw notFound('This address')
    const parsed = request.body ? parse(request.body, currentFormat(body), 'This request') : undefined
    response.set('Cache-Control', 'no-store').json(await handle({ db, id, body: parsed } as Call<Request>))
  }
}
