import { sql } from 'kysely'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Change, type SceneDocument, type Stored } from '@iron-hush/core/contract'
import { type Gear, uuidv7 } from '@iron-hush/core/model'
import { served, type Serving, serving } from './tests/serving'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

let one: Serving
let other: Serving
let scene: SceneDocument
beforeAll(async () => {
  one = await serving()
  other = await served(one.db)
  const [shoot] = (await one.call('GET', '/api/shoots')).body
  scene = (await one.call('GET', `/api/scenes/${shoot.scenes[0].id}`)).body
})
afterAll(async () => {
  await other.close()
  await one.close().catch(() => undefined)
})

const facts = (name: string) => ({ baseRevision: 0, content: { name, date: null, place: '' } })

/** What a page hears of a server, as it comes. */
async function listening({ base }: Serving) {
  const heard: { at: number; event: string; change?: Change }[] = []
  const stop = new AbortController()
  const answer = await fetch(`${base}/api/changes`, { signal: stop.signal })
  void (async () => {
    let rest = ''
    for await (const part of answer.body!.pipeThrough(new TextDecoderStream())) {
      const blocks = (rest + part).split('\n\n')
      rest = blocks.pop()!
      for (const block of blocks) {
        const event = /^event: (.+)$/m.exec(block)?.[1] ?? 'message'
        const data = /^data: (.+)$/m.exec(block)?.[1]
        if (data && event === 'message')
          heard.push({ at: performance.now(), event, change: Change.parse(JSON.parse(data)) })
        else if (data) heard.push({ at: performance.now(), event })
      }
    }
  })().catch(() => undefined)
  return { heard, stop: () => stop.abort() }
}

describe('what one server stores', () => {
  it('pages of another hear within a second, and read the same from both', async () => {
    const page = await listening(other)
    const begun = performance.now()
    const edits = [{ kind: 'note', note: 'from one' }]
    await one.call('POST', `/api/scenes/${scene.id}/edits`, { id: id(), baseRevision: 1, edits })
    const take = {
      id: id(),
      scene: scene.id,
      number: 1,
      startedAt: '2026-05-04T09:00:00.000Z',
      endedAt: null,
      verdict: 'open',
      note: '',
      marks: [],
      parts: [],
    }
    await one.call('PUT', `/api/takes/${take.id}`, { baseRevision: 0, content: take })
    await one.call('DELETE', `/api/takes/${take.id}?revision=1`)
    const [{ content, revision }] = (await one.call('GET', '/api/gear')).body as [Stored<Gear>]
    const changed = { baseRevision: revision, content: { ...content, owned: 9 } }
    await one.call('PUT', `/api/gear/${content.id}`, changed)
    await expect.poll(() => page.heard.length).toBe(4)
    expect(page.heard.at(-1)!.at - begun).toBeLessThan(1000)
    expect(page.heard.map(({ change }) => change)).toEqual([
      { kind: 'scene', id: scene.id, revision: 2 },
      { kind: 'take', id: take.id, scene: scene.id, revision: 1 },
      { kind: 'take', id: take.id, scene: scene.id, revision: 2 },
      { kind: 'gear', id: content.id, revision: revision + 1 },
    ])
    for (const address of [
      '/api/shoots',
      `/api/scenes/${scene.id}`,
      '/api/gear',
      `/api/scenes/${scene.id}/takes`,
    ])
      expect((await other.call('GET', address)).body, address).toEqual((await one.call('GET', address)).body)
    page.stop()
  })
  it('is told only when it is stored for good, and a refused change not at all', async () => {
    const page = await listening(other)
    await one.call('POST', `/api/scenes/${scene.id}/edits`, {
      id: id(),
      baseRevision: 1,
      edits: [{ kind: 'note', note: 'too late' }],
    })
    await one.call('PUT', `/api/shoots/${id()}`, facts('Told'))
    await expect.poll(() => page.heard.length).toBe(1)
    expect(page.heard[0]!.change!.kind).toBe('shoot')
    page.stop()
  })
  it('is edited through both in turn as through one', async () => {
    for (let turn = 0; turn < 6; turn++) {
      const through = turn % 2 ? one : other
      const now = (await through.call('GET', `/api/scenes/${scene.id}`)).body as SceneDocument
      expect(now.revision).toBe(turn + 2)
      const edits = [{ kind: 'note', note: `turn ${turn}` }]
      const change = { id: id(), baseRevision: now.revision, edits }
      expect((await through.call('POST', `/api/scenes/${scene.id}/edits`, change)).body.revision).toBe(
        turn + 3,
      )
      const again = turn % 2 ? other : one
      expect((await again.call('POST', `/api/scenes/${scene.id}/edits`, change)).body.revision).toBe(turn + 3)
    }
  })
})

describe('a listening connection that is cut', () => {
  it('is made anew, and pages are told that they may have missed something', async () => {
    const page = await listening(one)
    await sql`select pg_terminate_backend(pid) from pg_stat_activity
      where datname = current_database() and query like 'listen%'`.execute(one.db)
    await expect.poll(() => page.heard.map(({ event }) => event), { timeout: 5000 }).toContain('missed')
    await one.call('PUT', `/api/shoots/${id()}`, facts('Told again'))
    await expect.poll(() => page.heard.at(-1)!.change?.kind, { timeout: 5000 }).toBe('shoot')
    page.stop()
  })
})
