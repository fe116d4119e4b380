import type { ServerOptions } from 'node:http'

/** Longest time for a request to arrive, ms: one that never ends must not hold anything up. */
const slowestRequestMs = 10_000
/** How long an idle connection is kept, ms: one that is closed while a request is on its way looks like a fault. */
const idleMs = 75_000

/** How a server deals with requests that are slow to come; looked after every second. */
export const limits: ServerOptions = {
  headersTimeout: slowestRequestMs,
  requestTimeout: slowestRequestMs,
  connectionsCheckingInterval: 1000,
  keepAliveTimeout: idleMs,
}
