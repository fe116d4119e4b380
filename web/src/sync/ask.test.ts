import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { listGear } from '@iron-hush/core/contract'
import { gear } from '../tests/demo'
import { ask, askAhead, askAll, forgetAhead } from './ask'

/** What the network is asked, and what it answers by turns. */
let requests: Request[]
let answers: (() => Response)[]

const stored = gear.slice(0, 3).map((content) => ({ revision: 1, content }))
const page = (etag: string) => () => Response.json(stored, { headers: { ETag: etag } })
const unchanged = () => new Response(null, { status: 304 })

beforeEach(() => {
  setActivePinia(createPinia())
  requests = []
  vi.stubGlobal('fetch', (address: string, init?: RequestInit) => {
    requests.push(new Request(new URL(address, 'http://127.0.0.1'), init))
    return Promise.resolve(answers.shift()!())
  })
})

it('asks whether a list is still so, and gives the same things where it is', async () => {
  answers = [page('W/"1"'), unchanged, page('W/"2"'), unchanged]
  const first = await askAll(listGear)
  const second = await askAll(listGear)
  expect(requests.map(({ headers }) => headers.get('If-None-Match'))).toEqual([null, 'W/"1"'])
  expect(second).toHaveLength(3)
  second.forEach((each, at) => expect(each).toBe(first[at]))
  const changed = await askAll(listGear)
  expect(changed[0]).not.toBe(first[0])
  expect((await askAll(listGear))[0]).toBe(changed[0])
  expect(requests.at(-1)?.headers.get('If-None-Match')).toBe('W/"2"')
})

it('gives what was asked for ahead to the same question once, and to no other', async () => {
  answers = [page('W/"3"'), page('W/"4"')]
  askAhead(listGear)
  expect(requests).toHaveLength(1)
  expect(await ask(listGear)).toEqual(stored)
  expect(requests).toHaveLength(1)
  await ask(listGear)
  expect(requests).toHaveLength(2)
})

it('keeps no answer that was asked for ahead and not needed', async () => {
  answers = [page('W/"5"'), page('W/"6"')]
  askAhead(listGear)
  forgetAhead()
  await ask(listGear)
  expect(requests).toHaveLength(2)
})

it('lets a question that was asked ahead fail where it is asked', async () => {
  answers = [() => Response.error()]
  askAhead(listGear)
  await expect(ask(listGear)).rejects.toThrow('The server failed at this for the moment.')
})
