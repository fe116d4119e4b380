import compression from 'compression'
import express, { type Express, type RequestHandler } from 'express'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { publishedSchemas } from '@iron-hush/core/model'
import type { Database } from './database'
import { openApi } from './openapi'
import { HttpProblem, notFound, problems } from './problem'
import { handlerOf, type Route } from './route'
import { gearRoutes } from './routes/gear'
import { healthRoutes } from './routes/health'
import { proofRoutes } from './routes/proofs'
import { sceneRoutes } from './routes/scenes'
import { shootRoutes } from './routes/shoots'
import { takeRoutes } from './routes/takes'
import { unreadableRoutes } from './routes/unreadable'
import { servePage } from './page'

/** Everything that the contract promises, fulfilled. */
export const allRoutes = (): Route[] => [
  ...shootRoutes,
  ...sceneRoutes(),
  ...gearRoutes,
  ...takeRoutes,
  ...proofRoutes,
  ...unreadableRoutes(),
  ...healthRoutes,
]

interface Setup {
  db: Database
  log: Logger
  /** Folder of the built interface; left out, only the API is served. */
  web?: string
  /** Requests a minute and address; high, for one person with several tabs. */
  requestsPerMinute?: number
}

/** The server without a port. */
export function createApp({ db, log, web, requestsPerMinute = 3000 }: Setup): Express {
  const app = express()
  app.disable('x-powered-by')
  guard(app, requestsPerMinute)
  serveApi(app, db)
  if (web) servePage(app, web)
  app.use(problems(log))
  return app
}

/** What every request passes: safe headers, this machine's own pages only, so many requests a minute. */
function guard(app: Express, requestsPerMinute: number): void {
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // controls write their measures into style attributes and style elements
          styleSrc: ["'self'", "'unsafe-inline'"],
          workerSrc: ["'self'", 'blob:'],
          imgSrc: ["'self'", 'data:', 'blob:'],
          // plain http on loopback
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(onlyLoopback)
  app.use(
    '/api',
    rateLimit({
      windowMs: 60_000,
      limit: requestsPerMinute,
      legacyHeaders: false,
      standardHeaders: true,
      validate: false,
      handler: () => {
        throw new HttpProblem(
          429,
          'Too many',
          'Too many requests in a minute. Nothing was stored; it will be tried again.',
        )
      },
    }),
  )
}

/** What the contract promises, and its description. */
function serveApi(app: Express, db: Database): void {
  app.use('/api', compression())
  const routes = allRoutes()
  for (const { request } of routes)
    if (request.largestBodyMb) app.use(request.path, express.json({ limit: `${request.largestBodyMb}mb` }))
  app.use('/api', express.json({ limit: '1mb' }))
  for (const route of routes) app[route.request.method](route.request.path, handlerOf(route, db))
  const described = openApi(routes.map(({ request }) => request))
  const schemas = publishedSchemas()
  app.get('/api/schemas/:name.schema.json', ({ params: { name } }, response) => {
    if (!Object.hasOwn(schemas, name)) throw notFound(`The schema "${name}"`)
    response.type('application/schema+json').json(schemas[name])
  })
  app.get('/api/openapi.json', (_request, response) => void response.json(described))
  app.use('/api', () => {
    throw notFound('This address')
  })
}

/**
 * Answers only to names of this machine, and lets only its own pages write: another site open in the same browser
 * can neither read nor change anything, even by pointing a name of its own here.
 */
const onlyLoopback: RequestHandler = (request, _response, next) => {
  const host = request.headers.host ?? ''
  if (!/^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/.test(host))
    throw new HttpProblem(403, 'Not from here', 'Iron Hush answers on this machine only.')
  const { origin } = request.headers
  if (origin !== undefined && request.method !== 'GET' && origin !== `http://${host}`)
    throw new HttpProblem(403, 'Not from here', 'Only Iron Hush itself may change what it keeps.')
  next()
}
