import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Shoot, ShootFacts } from '@iron-hush/core/contract'
import { known } from '@iron-hush/core/model'
import { shootId } from '../tests/server'
import { historyPlaces, useHistory } from './history'
import { useNotices } from './notices'
import { useShoots } from './shoots'

/** The one shoot as the server has it; a change of an older revision is refused. */
let stored: Shoot
const onTheWay = () => new Promise((arrive) => setTimeout(arrive, 5))

async function answer(address: string, { method, body }: RequestInit = {}): Promise<Response> {
  await onTheWay()
  if (method === 'GET') return Response.json(address.startsWith('/api/shoots') ? [stored] : [])
  const { baseRevision, content } = JSON.parse(body as string) as {
    baseRevision: number
    content: ShootFacts
  }
  if (baseRevision !== stored.revision)
    return Response.json(
      { type: 'about:blank', title: 'conflict', status: 409, detail: 'It was changed elsewhere.' },
      { status: 409 },
    )
  stored = { ...stored, ...content, revision: baseRevision + 1 }
  return Response.json({ revision: stored.revision })
}

beforeEach(async () => {
  stored = { id: shootId, revision: 1, name: 'The bell', date: null, place: '', demo: false, scenes: [] }
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', answer)
  await useShoots().load()
})
const shown = () => known(useShoots().list[0], 'the shoot')
const said = () => [stored.name, stored.date, stored.place]

it('takes several changes of a shoot that follow each other fast, each on top of the one before', async () => {
  const shoots = useShoots()
  // as the page shows it while all three are under way
  const before = shown()
  const done = [
    shoots.changeShoot(before, { name: 'The tower' }),
    shoots.changeShoot(before, { date: '2026-12-01' }),
    shoots.changeShoot(before, { name: 'The old tower' }),
  ]
  expect(await Promise.all(done)).toEqual([true, true, true])
  expect(said()).toEqual(['The old tower', '2026-12-01', ''])
  expect(useNotices().list).toEqual([])
})

it('takes back just what was changed, and not what was said elsewhere meanwhile', async () => {
  const shoots = useShoots()
  await useHistory().go(historyPlaces.shoots)
  const before = shown()
  await Promise.all([
    shoots.changeShoot(before, { name: 'The tower' }),
    shoots.changeShoot(before, { name: 'The old tower' }),
  ])
  stored = { ...stored, place: 'up the hill', revision: stored.revision + 1 }
  await shoots.load()
  useHistory().undo()
  await vi.waitFor(() => expect(said()).toEqual(['The tower', null, 'up the hill']))
  useHistory().undo()
  await vi.waitFor(() => expect(said()).toEqual(['The bell', null, 'up the hill']))
  useHistory().redo()
  await vi.waitFor(() => expect(said()).toEqual(['The tower', null, 'up the hill']))
})
