import { describe, expect, it } from 'vitest'
import { findWays } from '../circuit'
import { applyEdits } from '../edits'
import { cases, isLong } from '../tests/form'
import { type EndOffer, offersAtEnd, plugIn, severityOf, takeWay } from '.'
import { scene, shelf } from '../tests/demo'

const bench = scene('1-the-founder-at-the-bench')

describe('plugging in', () => {
  const line = { box: 'recorder', port: 'line' }
  const ears = { id: 'ears', gear: 'saltmarsh-in-ear', settings: {}, locked: [] }
  const withEars = applyEdits(bench, [{ kind: 'add box', box: ears }], shelf)
  it('puts a splitter in where the socket is taken, and uses its free end the next time', () => {
    const edits = plugIn(withEars, shelf, line, { box: 'ears', port: 'in' })
    expect(edits.map(({ kind }) => kind)).toEqual(['insert piece', 'connect'])
    const next = applyEdits(withEars, edits, shelf)
    const link = next.links.find(({ to }) => to.box === 'ears')!
    expect(link.branch).toEqual({ piece: 'mini-splitter', end: 2 })
    const pulled = applyEdits(next, [{ kind: 'disconnect', link: link.id }], shelf)
    expect(plugIn(pulled, shelf, line, { box: 'ears', port: 'in' }).map(({ kind }) => kind)).toEqual([
      'connect',
    ])
  })
  it('takes a way by other sockets as a whole, and can be undone', () => {
    const link = bench.links.find(({ id }) => id === 'camera-feed')!
    const quiet = { ...bench, links: bench.links.filter(({ from }) => from.port !== 'phones') }
    const [way] = findWays(quiet, link, shelf, { otherPorts: true })
    const next = applyEdits(quiet, takeWay(quiet, link, way!), shelf)
    expect(next.links.find(({ to }) => to.box === 'camera')!.from.port).toBe(way!.from.port)
  })
  it('keeps the splitter that others begin at when a way is laid behind it', () => {
    const split = applyEdits(withEars, plugIn(withEars, shelf, line, { box: 'ears', port: 'in' }), shelf)
    const link = split.links.find(({ id }) => id === 'camera-feed')!
    const bare = { ...link, pieces: link.pieces.slice(0, 1) }
    const [way] = findWays(bench, { ...bare, pieces: [] }, shelf)
    const next = applyEdits(split, takeWay(split, link, way!), shelf)
    expect(next.links.find(({ id }) => id === link.id)!.pieces[0]!.gear).toBe('mini-splitter')
    expect(next.links.find(({ to }) => to.box === 'ears')!.branch).toBeDefined()
  })
  it(
    'offers at an end only what can be joined there, and every offer can be taken',
    { timeout: 60_000 },
    () => {
      const offers: EndOffer[] = []
      const end = { place: { box: 'recorder', port: 'line' }, direction: 'out' as const }
      // a part of the shelf: each kind of thing is offered in the same way
      const part = new Map(
        [...shelf].filter(([, { owned }], index) => owned > 0 || index % cases(4, 24) === 0),
      )
      offersAtEnd(bench, end, part, (offer) => offers.push(offer))
      expect(offers.length).toBeGreaterThan(5)
      for (const offer of offers) {
        expect(offer.gear.ports.some(({ direction }) => direction === 'in')).toBe(true)
        expect(() => applyEdits(bench, offer.edits, shelf)).not.toThrow()
      }
      const owned = offers.map((offer) => Number(offer.gear.owned > 0))
      expect(owned).toEqual([...owned].sort((one, other) => other - one))
      const inEar = offers.find((offer) => offer.gear.id === 'saltmarsh-in-ear')!
      expect(severityOf(inEar.outcome)).not.toBe('none')
    },
  )
  it.runIf(isLong)('brings a line down on its way into a microphone input', { timeout: 60_000 }, () => {
    const hall = scene('4-bells-in-the-town-hall')
    const end = { place: { box: 'desk', port: 'record' }, direction: 'out' as const }
    const cameras: EndOffer[] = []
    offersAtEnd(hall, end, shelf, (offer) => offer.gear.kind === 'camera' && cameras.push(offer))
    const mirrorless = cameras.find(({ gear }) => gear.id === 'fennimore-mirrorless')!
    expect(mirrorless.through.join()).toMatch(/pad/i)
    expect(['none', 'note', 'degraded']).toContain(severityOf(mirrorless.outcome))
  })
})
