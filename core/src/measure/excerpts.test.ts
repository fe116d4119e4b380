import { describe, expect, it } from 'vitest'
import { LoudestExcerpts } from './excerpts'

describe('the loudest excerpts', () => {
  it('are kept with all channels and their place, however the blocks fall', () => {
    const samples = Float32Array.from({ length: 1000 }, (_, index) => (Math.floor(index / 100) * 7) % 10)
    const kept = new LoudestExcerpts(2, 100, 3)
    for (let from = 0; from < 1000; from += 33)
      kept.push([samples.subarray(from, from + 33), samples.subarray(from, from + 33).map((value) => -value)])
    // stretches hold 0 7 4 1 8 5 2 9 6 3
    expect(kept.excerpts.map(({ frame, size }) => [frame, size])).toEqual([
      [700, 9],
      [400, 8],
      [100, 7],
    ])
    expect(kept.excerpts[0]!.channels[1]!.every((value) => value === -9)).toBe(true)
  })
})
