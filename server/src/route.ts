import type { z } from 'zod'
import type { Database } from './database'

export interface Call<B> {
  db: Database
  params: Record<string, string>
  body: B
}

/** One thing the server does. Requests are parsed, answers are made, and the OpenAPI text is written from it. */
export interface Route {
  method: 'get' | 'post' | 'put' | 'delete'
  /** With parameters as `:id`; parameters are UUIDs unless the path is about gear. */
  path: string
  does: string
  body?: z.ZodType
  answer: z.ZodType
  /** Problems it may answer with, by status. */
  problems?: Record<number, string>
  handle: (call: Call<never>) => Promise<unknown>
}

/** Ties the type of a handler to the schemas of its route. */
export const route = <B extends z.ZodType, A extends z.ZodType>(
  definition: Omit<Route, 'body' | 'answer' | 'handle'> & {
    body?: B
    answer: A
    handle: (call: Call<z.output<B>>) => Promise<z.input<A>>
  },
): Route => definition as unknown as Route
