import type { RequestHandler } from 'express'
import type { Logger } from 'pino'
import { type Options, pinoHttp } from 'pino-http'

/**
 * A line for each request: what was asked, the answer and how long it took. No contents, no cookies, no names: only the
 * method, the address without its query, and the status.
 */
export const logged = (logger: Logger): RequestHandler =>
  pinoHttp({
    // its types want to know our levels by name
    logger: logger as Options['logger'],
    quietReqLogger: true,
    customLogLevel: (_request, { statusCode }) => (statusCode >= 500 ? 'error' : 'info'),
    serializers: {
      req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({
        id,
        method,
        path: url.replace(/\?.*/, ''),
      }),
      res: ({ statusCode }: { statusCode: number }) => ({ status: statusCode }),
      err: ({ type, message }: { type: string; message: string }) => ({ type, message }),
    },
  })
