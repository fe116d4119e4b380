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
  it('hold a loop once, wherever it falls into its stretch', () => {
    const loop = Float32Array.from(
      { length: 70 },
      (_, index) => Math.sin(index * index) * (index < 60 ? 0.5 : 0.1),
    )
    const kept = new ExcerptKeeper(1, 100, 4)
    for (let times = 0; times < 40; times++) kept.push([loop])
    const sizes = kept.loudest.map(({ size }) => size)
    expect(new Set(sizes).size).toBe(sizes.length)
    // a limit that many waves reach is no loop
    const cut = new ExcerptKeeper(1, 100, 4)
    for (let times = 0; times < 40; times++)
      cut.push([
        Float32Array.from({ length: 100 }, (_, index) =>
          Math.max(-0.5, Math.min(0.5, Math.sin(index * (times + 3)))),
        ),
      ])
    expect(cut.loudest.map(({ size }) => size)).toEqual([0.5, 0.5, 0.5, 0.5])
  })
})
