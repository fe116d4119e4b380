import { describe, expect, it } from 'vitest'
import { layoutOf, strandsOf } from './layout'
import { bench, tuning, shelf } from '../../tests/demo'

describe('the patch drawing', () => {
  it('puts every box after what feeds it and draws a shared one once, across its rows', () => {
    const { boxes } = layoutOf(bench, shelf)
    const of = (id: string) => boxes.find(({ box }) => box.id === id)!
    for (const { from, to } of bench.links) expect(of(from.box).column).toBeLessThan(of(to.box).column)
    expect(boxes).toHaveLength(bench.boxes.length)
    expect([of('recorder').top, of('recorder').bottom]).toEqual([0, 1])
  })
  it('lays no box on another', () => {
    for (const patch of [bench, tuning]) {
      const { boxes } = layoutOf(patch, shelf)
      for (const one of boxes)
        for (const other of boxes)
          if (one !== other && one.column === other.column)
            expect(one.bottom < other.top || other.bottom < one.top).toBe(true)
    }
  })
  it('draws a strand for each contact, by what travels on it', () => {
    const strands = (id: string) =>
      strandsOf(
        bench.links.find((link) => link.id === id)!,
        bench,
        shelf,
      )
    expect(strands('boom-cable')).toEqual(['ground', 'signal', 'return'])
    expect(strands('receiver-cable')).toEqual(['ground', 'signal', 'ground'])
    expect(strands('camera-feed')).toEqual(['signal', 'signal', 'ground'])
    expect(strands('air')).toEqual(['radio'])
  })
})
