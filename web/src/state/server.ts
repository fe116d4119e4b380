import { Problem } from '@iron-hush/core/model'
import type { z } from 'zod'

/** The server could not be reached: what was to be sent is kept and tried again. */
export class ServerAway extends Error {}

/** The server answered with a problem; its detail is written for a person. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail)
  }
}

/** Asks the server; the answer goes through its schema. Throws ServerAway or Refused. */
export async function ask<T extends z.ZodType>(
  answer: T,
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  address: string,
  body?: unknown,
): Promise<z.output<T>> {
  const response = await fetch(address, {
    method,
    headers: body === undefined ? {} : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => {
    throw new ServerAway('The server cannot be reached.')
  })
  const content: unknown = await response.json().catch(() => undefined)
  if (response.ok) return answer.parse(content)
  const problem = Problem.safeParse(content)
  if (!problem.success || response.status >= 500 || response.status === 429)
    throw new ServerAway('The server failed at this for the moment.')
  throw new Refused(response.status, problem.data)
}
