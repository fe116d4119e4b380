import { addressOf, type AnswerOf, type BodyOf, Problem, type Request } from '@iron-hush/core/contract'

/** The server could not be reached, or failed: what was to be sent is kept and tried again. */
export class ServerAway extends Error {
  constructor(
    sentence: string,
    /** What it answered, if it did. */
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

/** Asks the server by the contract; the answer goes through its schema. Throws ServerAway or Refused. */
export async function ask<R extends Request>(
  request: R,
  { id, body }: { id?: string; body?: BodyOf<R> } = {},
): Promise<AnswerOf<R>> {
  const response = await fetch(addressOf(request, id === undefined ? {} : { id }), {
    method: request.method.toUpperCase(),
    headers: body === undefined ? {} : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => {
    throw new ServerAway('The server cannot be reached.')
  })
  const content: unknown = await response.json().catch(() => undefined)
  if (response.ok) return request.answer.parse(content) as AnswerOf<R>
  const problem = Problem.safeParse(content)
  if (!problem.success || response.status >= 500 || response.status === 429)
    throw new ServerAway('The server failed at this for the moment.', response.status)
  throw new Refused(response.status, problem.data)
}
