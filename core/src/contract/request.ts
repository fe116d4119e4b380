import type { z } from 'zod'

/** One thing the server does: how it is asked, what it answers, and what may come instead. */
export interface Request<
  Body extends z.ZodType | undefined = z.ZodType | undefined,
  Answer extends z.ZodType = z.ZodType,
  Query extends z.ZodType | undefined = z.ZodType | undefined,
> {
  method: 'get' | 'post' | 'put' | 'delete'
  /** With parameters as `:id`. */
  path: string
  /** Shape of the parameters; left out: UUIDs. */
  ids?: z.ZodType<string>
  does: string
  body: Body
  answer: Answer
  /** Problems it may answer with, by status. */
  problems?: Record<number, string>
  /** Parameters behind the address, all texts. */
  query: Query
  /** It is answered in pages: `limit` and `after` in the query, the address of the next page in the header Link. */
  paged?: { limit: number }
  /** Largest body, where the usual megabyte is too small. */
  largestBodyMb?: number
}

type Definition<Body, Answer, Query> = Omit<Request, 'body' | 'answer' | 'query'> & {
  body?: Body
  answer: Answer
  query?: Query
}

/** Keeps the schemas of a request in its type. */
export const request = <
  Answer extends z.ZodType,
  Body extends z.ZodType | undefined = undefined,
  Query extends z.ZodType | undefined = undefined,
>(
  definition: Definition<Body, Answer, Query>,
): Request<Body, Answer, Query> => ({
  ...definition,
  body: definition.body as Body,
  query: definition.query as Query,
})

/** Input of a request. */
export type BodyOf<R extends Request> = R['body'] extends z.ZodType ? z.input<R['body']> : undefined
/** The parameters behind its address. */
export type QueryOf<R extends Request> = R['query'] extends z.ZodType ? z.output<R['query']> : undefined
/** Answer to a request. */
export type AnswerOf<R extends Request> = z.output<R['answer']>

/** The address of a request, with each `:name` replaced by its value. */
export const addressOf = ({ path }: Pick<Request, 'path'>, params: Record<string, string> = {}): string =>
  path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ''))
