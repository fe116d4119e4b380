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
    /** Further fields, such as both versions in a conflict. */
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail)
  }
}

export const notFound = (what: string) =>
  new HttpProblem(404, 'Not there', `${what} was not found; it may have been deleted. Reload the page.`)

/** A conflict with a change made elsewhere in the meantime; both versions are returned so that nothing is lost. */
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
  if (problem.status === 503) response.set('Retry-After', '2')
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify(Problem.parse(body)))
}

/** Turns an error into a problem. Only unexpected errors are logged, and their text is not sent. */
export const problems =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _request, response, next) => {
    if (response.headersSent) return next(error)
    sendProblem(response, asProblem(error, log))
  }

/** Refusals by the body parser and the router, by type or status, in our words. */
const unreadable: Record<string, [title: string, sentence: string]> = {
  'entity.too.large': [
    'Too large',
    'This is larger than the server accepts at once (1 MB; 48 MB for a gear file). Nothing was stored.',
  ],
  'entity.parse.failed': ['Unreadable', 'The request was not JSON. Nothing was stored.'],
  'charset.unsupported': ['Unreadable', 'The request is not in UTF-8. Nothing was stored.'],
  'encoding.unsupported': [
    'Unreadable',
    'The request uses an encoding that is not supported. Send it plain or gzipped. Nothing was stored.',
  ],
  'request.aborted': ['Cut off', 'The request ended too early. Nothing was stored.'],
  'request.size.invalid': ['Cut off', 'The request is not as long as its header says. Nothing was stored.'],
}

function fromRequest(error: unknown): HttpProblem | undefined {
  const { status, type = '' } = error as { status?: unknown; type?: string }
  if (typeof status !== 'number' || status < 400 || status > 499) return undefined
  const [title, sentence] = unreadable[type] ?? [
    'Unreadable',
    'The request cannot be read as it was sent. Nothing was stored.',
  ]
  return new HttpProblem(status, title, sentence)
}

/** Database errors by the class of their code (PostgreSQL, appendix A). */
const fromDatabase: { code: RegExp; problem: () => HttpProblem }[] = [
  {
    code: /^53[12]00$/,
    problem: () =>
      new HttpProblem(
        507,
        'Disk full',
        'The disk is full: nothing was stored. Make room; it will be tried again automatically, and what is stored can be read.',
      ),
  },
  {
    // connection lost or refused, the database starting or ending, a wait given up, two that wait for each other
    code: /^(08|57P|57014|55P03|40|25P03|53300|ECONN|EPIPE|ETIMEDOUT)/,
    problem: () =>
      new HttpProblem(
        503,
        'Not now',
        'The database does not answer just now. Nothing was stored; it will be tried again automatically.',
      ),
  },
  {
    // data out of range or not text, a rule of a table broken
    code: /^(22|23)/,
    problem: () =>
      new HttpProblem(422, 'Refused', 'Something in this cannot be stored as it is. Nothing was stored.'),
  },
]
const lostConnection = /connection (terminated|ended)|timeout exceeded when trying to connect/i

function asProblem(error: unknown, log: Logger): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof Refusal) return new HttpProblem(422, 'Refused', error.message)
  const read = fromRequest(error)
  if (read) return read
  const { code = '', message = '' } = error as { code?: string; message?: string }
  const stored = lostConnection.test(message) ? '08' : code
  const known = fromDatabase.find((each) => each.code.test(stored))
  if (known) return known.problem()
  log.error(error)
  return new HttpProblem(
    500,
    'Failed',
    'The server failed. Nothing was left half stored; try again, and check its output if it happens again.',
  )
}
