import { Writable } from 'node:stream'
import { pino } from 'pino'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { type Serving, serving } from './tests/serving'

const lines: string[] = []
let at: Serving
beforeAll(async () => {
  const kept = new Writable({
    write(part: Buffer, _encoding, done) {
      lines.push(...part.toString().trim().split('\n'))
      done()
    },
  })
  at = await serving(pino({ level: 'info' }, kept))
})
afterAll(() => at.close())

it('says of every request what was asked and answered, and nothing of its contents', async () => {
  const [shoot] = (await at.call('GET', '/api/shoots')).body
  const scene = shoot.scenes[0].id as string
  await at.call('POST', `/api/scenes/${scene}/edits`, {
    id: scene,
    baseRevision: 1,
    edits: [{ kind: 'note', note: 'nobody else’s business' }],
  })
  await at.call('GET', '/api/gear?after=business', undefined, { cookie: 'secret=business' })
  const requests = lines.map((line) => JSON.parse(line))
  expect(requests.map(({ req, res, level }) => [req.method, req.path, res.status, level])).toEqual([
    ['GET', '/api/shoots', 200, 30],
    ['POST', `/api/scenes/${scene}/edits`, 200, 30],
    ['GET', '/api/gear', 422, 30],
  ])
  for (const { responseTime } of requests) expect(responseTime).toBeGreaterThanOrEqual(0)
  expect(lines.join('')).not.toMatch(/business|Bell foundry|secret/)
})
