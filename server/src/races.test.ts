import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { SceneDocument, Stored } from '@iron-hush/core/contract'
import { type Gear, type Take, uuidv7 } from '@iron-hush/core/model'
import { measured } from './tests/measured'
import { type Serving, serving } from './tests/serving'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

let at: Serving
let scene: SceneDocument
const call: Serving['call'] = (...asked) => at.call(...asked)
beforeAll(async () => {
  at = await serving()
  const [shoot] = (await call('GET', '/api/shoots')).body
  scene = (await call('GET', `/api/scenes/${shoot.scenes[0].id}`)).body
})
afterAll(() => at.close())

const takeOf = (number: number): Take => ({
  id: id(),
  scene: scene.id,
  number,
  startedAt: '2026-05-04T09:00:00.000Z',
  endedAt: '2026-05-04T09:02:00.000Z',
  verdict: 'open',
  note: '',
  marks: [],
  parts: [],
})
const put = (take: Take, baseRevision: number) =>
  call('PUT', `/api/takes/${take.id}`, { baseRevision, content: take })
const drop = (take: Take, revision: number) => call('DELETE', `/api/takes/${take.id}?revision=${revision}`)
const takes = async (): Promise<string[]> =>
  (await call('GET', `/api/scenes/${scene.id}/takes`)).body.map((each: Stored<Take>) => each.content.id)

describe('what was deleted', () => {
  it('is not brought back by a change that comes late, nor by its first creation sent again', async () => {
    const take = takeOf(1)
    await put(take, 0)
    await drop(take, 1)
    for (const base of [0, 1]) {
      const late = await put({ ...take, note: 'late' }, base)
      expect(late.status).toBe(409)
      expect(late.body.detail).toMatch(/^Take 1 was deleted elsewhere/)
    }
    expect((await put(take, 0)).status).toBe(409)
    expect(await takes()).not.toContain(take.id)
  })
  it('comes back for one who knows that it was deleted', async () => {
    const take = takeOf(2)
    await put(take, 0)
    const { revision } = (await drop(take, 1)).body
    expect((await put(take, revision)).body).toEqual({ revision: revision + 1 })
    expect(await takes()).toContain(take.id)
  })
  it('was seen as it stands: one changed meanwhile stays, and both versions go back', async () => {
    const take = takeOf(3)
    await put(take, 0)
    await put({ ...take, note: 'changed meanwhile' }, 1)
    const late = await drop(take, 1)
    expect(late.status).toBe(409)
    expect(late.body.theirs.content.note).toBe('changed meanwhile')
    expect(await takes()).toContain(take.id)
    expect((await call('DELETE', `/api/takes/${take.id}`)).status).toBe(422)
  })
  it('leaves its number to another take', async () => {
    const [old, fresh] = [takeOf(4), takeOf(4)]
    await put(old, 0)
    const { revision } = (await drop(old, 1)).body
    expect((await put(fresh, 0)).status).toBe(200)
    expect((await put(old, revision)).status).toBe(409)
  })
})

describe('the demo', () => {
  it('brings back what of its shelf was deleted', async () => {
    const all: Stored<Gear>[] = (await call('GET', '/api/gear')).body
    const { revision } = all.find(({ content }) => content.id === 'mini-pad-40')!
    await call('DELETE', `/api/gear/mini-pad-40?revision=${revision}`)
    await call('POST', '/api/demo')
    const again: Stored<Gear>[] = (await call('GET', '/api/gear')).body
    expect(again.find(({ content }) => content.id === 'mini-pad-40')!.revision).toBe(revision + 2)
  })
})

describe('the same meaning gets the same answer', () => {
  it('whatever the order of fields, the fineness of a time and the case of letters', async () => {
    const take = takeOf(5)
    await put(take, 0)
    const { marks, ...rest } = take
    const again = {
      marks,
      ...rest,
      id: take.id.toUpperCase(),
      startedAt: '2026-05-04T09:00:00Z',
      endedAt: '2026-05-04T09:02:00.000000Z',
    }
    const answer = await call('PUT', `/api/takes/${take.id.toUpperCase()}`, {
      content: again,
      baseRevision: 0,
    })
    expect(answer.body).toEqual({ revision: 1 })
    expect(answer.status).toBe(200)
  })
  it('and another change under the id of one that is stored is refused', async () => {
    const change = id()
    const edit = (note: string) =>
      call('POST', `/api/scenes/${scene.id}/edits`, {
        id: change,
        baseRevision: 1,
        edits: [{ kind: 'note', note }],
      })
    expect((await edit('one')).body).toEqual({ revision: 2 })
    expect((await edit('one')).body).toEqual({ revision: 2 })
    const other = await edit('two')
    expect(other.status).toBe(409)
    expect(other.body.detail).toMatch(/under an id of its own/)
  })
})

describe('imports', () => {
  const shelf = async (): Promise<Stored<Gear>[]> => (await call('GET', '/api/gear')).body
  it('of two at once that differ, one is stored whole, and the other not at all', async () => {
    const [gear] = await shelf()
    const things = (owned: number) =>
      ['import-b', 'import-a', 'import-c'].map((name) => ({
        baseRevision: 0,
        content: { ...gear!.content, id: name, name, owned },
      }))
    const answers = await Promise.all(
      [1, 2, 1, 3].map((owned) => call('POST', '/api/gear/import', { things: things(owned) })),
    )
    const stored = (await shelf()).filter(({ content }) => content.id.startsWith('import-'))
    expect(stored.map(({ content }) => content.id)).toEqual(['import-a', 'import-b', 'import-c'])
    expect(new Set(stored.map(({ content }) => content.owned)).size).toBe(1)
    for (const [index, { status }] of answers.entries())
      expect(status).toBe([1, 2, 1, 3][index] === stored[0]!.content.owned ? 200 : 409)
  })
  it('do not undo what was changed since the file was looked at', async () => {
    const [{ content, revision }] = (await shelf()) as [Stored<Gear>]
    const changed = { ...content, owned: content.owned + 7 }
    await call('PUT', `/api/gear/${content.id}`, { baseRevision: revision, content: changed })
    const late = await call('POST', '/api/gear/import', {
      things: [{ baseRevision: revision, content: { ...content, owned: 1 } }],
    })
    expect(late.status).toBe(409)
    expect(late.body.detail).toContain(content.name)
    expect((await shelf()).find((each) => each.content.id === content.id)!.content.owned).toBe(changed.owned)
  })
})

const facts = (name: string) => ({ baseRevision: 0, content: { name, date: null, place: '' } })

describe('two different things under one id', () => {
  it('are never both made: of shoots, of takes and measurements of whatever scene', async () => {
    const [shoot] = (await call('GET', '/api/shoots')).body
    const scenes = shoot.scenes.slice(0, 4).map((each: { id: string }) => each.id) as string[]
    const own = id()
    const answers = await Promise.all(
      ['One', 'Two', 'One', 'Three'].map((name) => call('PUT', `/api/shoots/${own}`, facts(name))),
    )
    const stored = ((await call('GET', '/api/shoots')).body as { id: string; name: string }[]).find(
      (each) => each.id === own,
    )!
    for (const [index, { status }] of answers.entries())
      expect(status).toBe(['One', 'Two', 'One', 'Three'][index] === stored.name ? 200 : 409)
    for (const kind of ['takes', 'proofs'] as const) {
      const same = id()
      const of = (its: string) =>
        kind === 'takes'
          ? { ...takeOf(77), id: same, scene: its }
          : {
              id: same,
              scene: its,
              recording: '',
              measuredAt: '2026-05-04T09:00:00.000Z',
              measurement: measured,
            }
      const made = await Promise.all(
        scenes.map((each) => call('PUT', `/api/${kind}/${same}`, { baseRevision: 0, content: of(each) })),
      )
      expect(made.map(({ status }) => status).sort(), kind).toEqual([200, 409, 409, 409])
    }
  })
  it('of a shoot changed on two devices the second is told', async () => {
    const own = id()
    await call('PUT', `/api/shoots/${own}`, facts('Named'))
    const named = (name: string) => ({ baseRevision: 1, content: { name, date: null, place: '' } })
    expect((await call('PUT', `/api/shoots/${own}`, named('Here'))).body).toEqual({ revision: 2 })
    const late = await call('PUT', `/api/shoots/${own}`, named('There'))
    expect(late.status).toBe(409)
    expect(late.body.theirs.content.name).toBe('Here')
  })
})

describe('lists in pages', () => {
  /** All pages of a list, and how many there were. */
  async function allOf(address: string): Promise<{ ids: string[]; pages: number }> {
    const ids: string[] = []
    let pages = 0
    for (let next: string | undefined = address; next; pages++) {
      const { body, headers } = await call('GET', next)
      ids.push(...body.map((each: Stored<{ id: string }>) => each.content.id))
      next = /<([^>]+)>; rel="next"/.exec(headers.get('link') ?? '')?.[1]
    }
    return { ids, pages }
  }
  it('hold every measurement once, also where many were made in one moment', async () => {
    const rows = Array.from({ length: 620 }, (_, index) => ({
      id: id(),
      scene_id: scene.id,
      clip: 'a.wav',
      recording: 'camera.left',
      // three to a moment
      measured_at: new Date(Date.UTC(2026, 0, 1) + Math.floor(index / 3) * 1000),
      measurement: JSON.stringify(measured),
      revision: 1,
    }))
    await at.db.insertInto('proofs').values(rows).execute()
    const { ids, pages } = await allOf(`/api/scenes/${scene.id}/proofs`)
    expect(pages).toBe(7)
    expect(new Set(ids)).toEqual(new Set(rows.map((row) => row.id)))
    expect(ids).toHaveLength(620)
  })
  it('hold every shoot once with its scenes, the demo last', async () => {
    const made = Array.from({ length: 7 }, () => id())
    for (const shoot of made) {
      await call('PUT', `/api/shoots/${shoot}`, facts('One'))
      await call('PUT', `/api/scenes/${id()}`, { shoot, patch: scene.patch })
    }
    const pages: { id: string; demo: boolean; scenes: object[] }[][] = []
    for (let next: string | undefined = '/api/shoots?limit=3'; next;) {
      const { body, headers } = await call('GET', next)
      pages.push(body)
      next = /<([^>]+)>; rel="next"/.exec(headers.get('link') ?? '')?.[1]
    }
    const all = pages.flat()
    expect(new Set(all.map((shoot) => shoot.id)).size).toBe(all.length)
    expect(all.slice(0, 7).map((shoot) => shoot.id)).toEqual(made.toReversed())
    expect(all.slice(0, 7).map(({ scenes }) => scenes.length)).toEqual(made.map(() => 1))
    const demos = all.map(({ demo }) => demo)
    expect(demos.toSorted((one, other) => Number(one) - Number(other))).toEqual(demos)
  })
  it('are as long as is asked, and take no mark that is none', async () => {
    const { ids, pages } = await allOf('/api/gear?limit=17')
    expect(new Set(ids).size).toBe(ids.length)
    expect(ids.length).toBe((await allOf('/api/gear')).ids.length)
    expect(pages).toBe(Math.ceil(ids.length / 17))
    for (const odd of ['limit=0', 'limit=x', 'after=x', 'after=WzFd', 'limit=5&limit=6'])
      expect((await call('GET', `/api/gear?${odd}`)).status, odd).toBe(422)
  })
})
