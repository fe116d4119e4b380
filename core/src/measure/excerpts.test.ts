import { describe, expect, it } from 'vitest'
import { ExcerptKeeper } from './excerpts'

describe('excerpts', () => {
  it('that are loudest are kept with all channels and their place, however the blocks fall', () => {
    const samples = Float32Array.from({ length: 1000 }, (_, index) => (Math.floor(index / 100) * 7) % 10)
    const kept = new ExcerptKeeper(2, 100, 3)
    for (let from = 0; from < 1000; from += 33)
      kept.push([samples.subarray(from, from + 33), samples.subarray(from, from + 33).map((value) => -value)])
    // stretches hold 0 7 4 1 8 5 2 9 6 3
    expect(kept.loudest.map(({ frame, size }) => [frame, size])).toEqual([
      [700, 9],
      [400, 8],
      [100, 7],
    ])
    expect(kept.loudest[0]!.channels[1]!.every((value) => value === -9)).toBe(true)
  })
  it('that are quietest are kept, but for silence', () => {
    const kept = new ExcerptKeeper(1, 10, 2)
    for (const size of [5, 2, 0, 4, 1]) kept.push([new Float32Array(10).fill(size)])
    expect(kept.quietest.map(({ size }) => size)).toEqual([1, 2])
  })
})
