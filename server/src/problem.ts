import type { ErrorRequestHandler, Response } from 'express'
import { Problem } from '@iron-hush/core/contract'
import { Refusal } from '@iron-hush/core/model'
import type { Logger } from 'pino'

/** An answer other than success: what was refused, why, and what to do (RFC 9457). */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    /** Further members, such as both versions in a conflict. */
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail)
  }
}

export const notFound = (what: string) =>
  new HttpProblem(404, 'Not there', `${what} is not there; it may have been removed. Reload to see what is.`)

/** What was changed elsewhere in the meantime; both versions go back so that nothing is lost. */
export const conflict = (what: string, theirs: unknown, yours: unknown) =>
  new HttpProblem(
    409,
    'Changed elsewhere',
    `${what} was changed elsewhere in the meantime. Nothing was overwritten; choose which version to keep.`,
    { theirs, yours },
  )

export function sendProblem(response: Response, problem: HttpProblem): void {
  const body = {
    type: 'about:blank',
    title: problem.title,
    status: problem.status,
    detail: problem.message,
    ...problem.more,
  }
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify(Problem.parse(body)))
}

/** Turns whatever was thrown into a problem. Only what nobody foresaw is logged, and its text stays here. */
export const problems =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _request, response, next) => {
    if (response.headersSent) return next(error)
    sendProblem(response, asProblem(error, log))
  }

function asProblem(error: unknown, log: Logger): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof Refusal) return new HttpProblem(422, 'Refused', error.message)
  const type = (error as { type?: string }).type
  if (type === 'entity.too.large')
    return new HttpProblem(
      413,
      'Too large',
      'This is larger than the server takes at once (1 MB; 48 MB for a gear file). Nothing was stored.',
    )
  if (type === 'entity.parse.failed')
    return new HttpProblem(400, 'Unreadable', 'The request was not JSON. Nothing was stored.')
  log.error(error)
  return new HttpProblem(
    500,
    'Failed',
    'The server failed at this. Nothing was stored half; try again, and look into its output if it happens again.',
  )
}
