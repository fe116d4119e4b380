import compression from 'compression'
import express, { type Express } from 'express'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { changesPath } from '@iron-hush/core/contract'
import { publishedSchemas } from '@iron-hush/core/model'
import { type Access, guard } from './access/guard'
import { Sharer } from './access/sharing'
import type { Changes } from './changes'
import type { Database } from './database'
import { logged } from './logging'
import { openApi } from './openapi'
import { HttpProblem, notFound, problems } from './problem'
import { handlerOf, type Route } from './route'
import { gearRoutes } from './routes/gear'
import { healthRoutes } from './routes/health'
import { proofRoutes } from './routes/proofs'
import { sceneRoutes } from './routes/scenes'
import { shootRoutes } from './routes/shoots'
import { sharingRoutes } from './routes/sharing'
import { takeRoutes } from './routes/takes'
import { unreadableRoutes } from './routes/unreadable'
import { servePage } from './page'

/** Everything that the contract promises, fulfilled. */
export const allRoutes = (
  sharer = new Sharer(),
  shutOff: (device: string) => void = () => undefined,
): Route[] => [
  ...shootRoutes,
  ...sceneRoutes(),
  ...gearRoutes,
  ...takeRoutes,
  ...proofRoutes,
  ...unreadableRoutes(),
  ...healthRoutes,
  ...sharingRoutes(sharer, shutOff),
]

interface Setup {
  db: Database
  log: Logger
  /** Notifies pages of changes; left out, they poll. */
  changes?: Changes
  access?: Access
  /** How it is shared with other devices; left out: it is not. */
  sharer?: Sharer
  /** Folder of the built interface; left out, only the API is served. */
  web?: string
  /** Requests a minute and address; high, for one person with several tabs. */
  requestsPerMinute?: number
}

/** The server without a port. */
export function createApp(setup: Setup): Express {
  const { log, changes, web } = setup
  const app = express()
  app.disable('x-powered-by')
  app.use('/api', logged(log))
  protect(app, setup)
  // before anything that packs answers: each event goes out at once
  if (changes) app.get(changesPath, changes.stream)
  serveApi(app, setup)
  if (web) servePage(app, web)
  app.use(problems(log))
  return app
}

/** Middleware of every request: safe headers, access, rate limit. */
function protect(
  app: Express,
  { db, access = {}, sharer = new Sharer(), requestsPerMinute = 3000 }: Setup,
): void {
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
      // without it the form of the pairing page would not say where it comes from
      referrerPolicy: { policy: 'same-origin' },
    }),
  )
  guard(app, { db, access, sharer })
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

/** The routes of the contract, and its description. */
function serveApi(app: Express, { db, sharer, changes }: Setup): void {
  app.use('/api', compression())
  const routes = allRoutes(sharer, (device) => changes?.cut(device))
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
