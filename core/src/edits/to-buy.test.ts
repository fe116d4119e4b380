import { expect, it } from 'vitest'
import { findWays } from '../circuit'
import { pairPatch, takeWay } from '../advice'
import { known, type Shelf } from '../model'
import { scene, shelf } from '../tests/demo'
import { applyEdits } from './apply-edits'
import type { Edit } from './edit'
import { toBuyFor } from './to-buy'

const bench = scene('1-the-founder-at-the-bench')
const feed = known(
  bench.links.find(({ id }) => id === 'camera-feed'),
  'the feed of the camera',
)
const lead = known(feed.pieces[0], 'its lead').gear
const owning = (owned: number): Shelf => new Map([...shelf, [lead, { ...shelf.get(lead)!, owned }]])
const names = (gear: readonly { name: string }[]) => gear.map(({ name }) => name)

it('is nothing for a lead that lies there, and one more where it is in use', () => {
  const used = bench.links.flatMap(({ pieces }) => pieces).filter(({ gear }) => gear === lead).length
  const [piece] = feed.pieces
  const twice: Edit[] = [
    { kind: 'disconnect', link: feed.id },
    { kind: 'connect', link: { ...feed, pieces: [piece!, { ...piece!, id: 'second-lead' }] } },
  ]
  expect(toBuyFor(bench, twice, owning(used + 1))).toEqual([])
  expect(names(toBuyFor(bench, twice, owning(used)))).toEqual([shelf.get(lead)!.name])
  // what is taken out is free again
  const again: Edit[] = [twice[0]!, { kind: 'connect', link: feed }]
  expect(toBuyFor(bench, again, owning(used))).toEqual([])
  // a change that is refused needs nothing
  expect(toBuyFor(bench, [{ kind: 'connect', link: { ...feed, id: 'again' } }], owning(0))).toEqual([])
})

it('counts a lead twice that a way has twice', () => {
  const { patch, link } = pairPatch(
    { gear: 'oriel-short-gun', port: 'out' },
    { gear: 'saltmarsh-two-track', port: 'in-1' },
    shelf,
  )
  const way = findWays(patch, link, shelf).find(({ pieces }) => pieces.length === 1)
  const one = known(way?.pieces[0], 'a lead')
  const twice = applyEdits(patch, takeWay(patch, link, { ...way!, pieces: [one, one] }), shelf)
  expect(twice.links[0]!.pieces).toHaveLength(2)
  const shelfWithOne = new Map([...shelf, [one.gear.id, { ...one.gear, owned: 1 }]])
  expect(names(toBuyFor(patch, takeWay(patch, link, { ...way!, pieces: [one, one] }), shelfWithOne))).toEqual(
    [one.gear.name],
  )
})
