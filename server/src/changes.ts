import type { RequestHandler, Response } from 'express'
import pg from 'pg'
import { Change } from '@iron-hush/core/contract'

const channel = 'iron_hush'
/** Interval of heartbeats, ms: proxies would take a quiet stream for a dead one. */
const heartbeatMs = 15_000
/** How long until a lost connection is tried again: longer each time, ms. */
const backoffMs = [100, 300, 1000, 3000]

/** Notifies pages of changes in the database by any server (PostgreSQL, LISTEN). */
export class Changes {
  private readonly streams = new Set<Response>()
  private readonly beating = setInterval(() => this.send(':\n\n'), heartbeatMs)
  private client: pg.Client | undefined
  private tries = 0
  private ended = false

  constructor(
    private readonly url: string,
    private readonly lost: (error: Error) => void = () => undefined,
  ) {}

  /** Listens until `end`; a connection that is lost is made again, and pages are notified that they may have missed some. */
  async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true })
    client.on('notification', ({ payload }) => this.tell(payload ?? ''))
    client.on('error', (error) => {
      this.lost(error)
      this.again(client)
    })
    client.on('end', () => this.again(client))
    this.client = client
    try {
      await client.connect()
      await client.query(`listen ${channel}`)
      this.tries = 0
      this.send('event: missed\ndata: {}\n\n')
    } catch (error) {
      this.lost(error as Error)
      this.again(client)
    }
  }

  private again(client: pg.Client): void {
    if (this.ended || this.client !== client) return
    this.client = undefined
    client.end().catch(() => undefined)
    setTimeout(() => !this.ended && void this.listen(), backoffMs[Math.min(this.tries++, 3)]).unref()
  }

  private tell(payload: string): void {
    const change = Change.safeParse(JSON.parse(payload))
    if (change.success) this.send(`data: ${JSON.stringify(change.data)}\n\n`)
  }

  private send(text: string): void {
    // a page that does not read is not waited for: it is cut off, comes back, and reads again
    for (const stream of this.streams)
      if (stream.writableLength > 1e6) stream.destroy()
      else stream.write(text)
  }

  /** Answers with the stream of changes. */
  readonly stream: RequestHandler = (_request, response) => {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' })
    response.flushHeaders()
    response.write('retry: 1000\n\n')
    this.streams.add(response)
    response.on('close', () => this.streams.delete(response))
  }

  /** Ends the event stream of a device that lost access. */
  cut(device: string): void {
    for (const stream of this.streams) if (stream.locals.device === device) stream.end()
  }

  async end(): Promise<void> {
    this.ended = true
    clearInterval(this.beating)
    for (const stream of this.streams) stream.end()
    await this.client?.end().catch(() => undefined)
  }
}
