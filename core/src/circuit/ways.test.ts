import { describe, expect, it } from 'vitest'
import { scene, shelf } from '../tests/demo'
import { findWays, ranked, type Way, withoutDetours } from './index'

const bench = scene('1-the-founder-at-the-bench')

describe('the order of ways', () => {
  it('has one that costs much before one that may cost anything', () => {
    const [way] = findWays(bench, bench.links[0]!, shelf) as [Way]
    const bought = [undefined, 900, 40].map((price): Way => ({ ...way, missing: 1, price }))
    expect(ranked(bought).map(({ price }) => price)).toEqual([40, 900, undefined])
  })
  it('has one that does no harm before one that does, whatever they lose', () => {
    const [way] = findWays(bench, bench.links[0]!, shelf) as [Way]
    const finding = { ...way.report.findings[0]!, code: 'supply shorted', severity: 'harmful' } as const
    const shorted = { ...way, lossDb: 0, report: { ...way.report, findings: [finding] } } as Way
    const lossy = { ...way, lossDb: 20, report: { ...way.report, findings: [] } }
    expect(ranked([shorted, lossy])).toEqual([lossy, shorted])
  })
})

describe('a list to choose from', () => {
  const link = bench.links.find(({ to }) => to.box === 'camera')!
  const all = findWays(bench, link, shelf, { refused: ['dead'] })
  const short = withoutDetours(all)
  const ids = ({ pieces }: (typeof all)[number]) =>
    pieces.map((piece) => `${piece.gear.id} ${piece.reversed}`)
  it('keeps the best, leaves out what only adds pieces, and keeps every pad', () => {
    expect(short[0]).toBe(all[0])
    expect(short.length).toBeLessThan(all.length)
    for (const [index, way] of short.entries())
      for (const better of short.slice(0, index))
        if (Math.abs(better.lossDb - way.lossDb) < 1 && better.pieces.length > 0)
          expect(ids(way).filter((id) => ids(better).includes(id))).not.toEqual(ids(better))
    // whatever level there is to be had is still offered
    for (const { lossDb } of all)
      expect(Math.min(...short.map((each) => Math.abs(each.lossDb - lossDb)))).toBeLessThan(1)
  })
})
