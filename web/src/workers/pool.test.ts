import { type Endpoint, expose } from 'comlink'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { known } from '@iron-hush/core/model'
import { Pool } from './pool'

const api = {
  twice: (number: number) => 2 * number,
  never: () => new Promise<number>(() => undefined),
  fails: (): number => {
    throw new Error('out of memory')
  },
}

/** Workers that run here, each behind a channel as a worker is behind its port. */
function workers() {
  const begun: { ended: boolean; ports: MessagePort[] }[] = []
  const pool = new Pool<typeof api>(() => {
    const { port1, port2 } = new MessageChannel()
    expose(api, port1 as Endpoint)
    const worker = { ended: false, ports: [port1, port2] }
    begun.push(worker)
    return Object.assign(port2, { terminate: () => (worker.ended = true) }) as unknown as Worker
  })
  return { pool, begun, at: (index: number) => known(begun[index], `worker ${index}`) }
}
let hired: ReturnType<typeof workers>

describe('a pool of workers', () => {
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    hired = workers()
  })
  afterEach(() => {
    vi.useRealTimers()
    // an open port keeps the process alive
    for (const { ports } of hired.begun) for (const port of ports) port.close()
  })
  it('gives the next job to one that has done its work, and ends it when none comes', async () => {
    const { pool, begun, at } = hired
    expect(await pool.job((each) => each.twice(2)).result).toBe(4)
    expect(await pool.job((each) => each.twice(3)).result).toBe(6)
    expect(begun).toHaveLength(1)
    vi.advanceTimersByTime(14_000)
    expect(at(0).ended).toBe(false)
    vi.advanceTimersByTime(2_000)
    expect(at(0).ended).toBe(true)
    expect(await pool.job((each) => each.twice(4)).result).toBe(8)
    expect(begun).toHaveLength(2)
  })
  it('begins another for work beside work, and ends the one whose job is cancelled', async () => {
    const { pool, begun, at } = hired
    const long = pool.job((each) => each.never())
    expect(await pool.job((each) => each.twice(5)).result).toBe(10)
    expect(begun).toHaveLength(2)
    long.cancel()
    expect(begun.map(({ ended }) => ended)).toEqual([true, false])
    // cancelled after its end a job leaves the worker alone, which is at other work by then
    const short = pool.job((each) => each.twice(6))
    await short.result
    short.cancel()
    expect(at(1).ended).toBe(false)
  })
  it('ends one that failed in a way that nobody foresaw', async () => {
    const { pool, at } = hired
    await expect(pool.job((each) => each.fails()).result).rejects.toThrow('out of memory')
    await Promise.resolve()
    expect(at(0).ended).toBe(true)
  })
  it('has one ready before it is needed', async () => {
    const { pool, begun } = hired
    pool.warmUp()
    pool.warmUp()
    expect(begun).toHaveLength(1)
    expect(await pool.job((each) => each.twice(7)).result).toBe(14)
    expect(begun).toHaveLength(1)
  })
})
