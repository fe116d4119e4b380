import { describe, expect, it } from 'vitest'
import { burstsIn } from './bursts'

const stepS = 0.01
/** Deep sound of -80 dB under a rest of -40 dB, and louder in some stretches (seconds). */
function levels(...loud: [fromS: number, toS: number, deepDb: number, restDb?: number][]) {
  const deep = new Float32Array(1000).fill(-80)
  const rest = new Float32Array(1000).fill(-40)
  for (const [fromS, toS, deepDb, restDb] of loud) {
    deep.fill(deepDb, fromS / stepS, toS / stepS)
    if (restDb !== undefined) rest.fill(restDb, fromS / stepS, toS / stepS)
  }
  return { stepS, deep, rest }
}
const kinds = (...loud: Parameters<typeof levels>) => burstsIn(levels(...loud), -23).map(({ kind }) => kind)

describe('deep bursts', () => {
  it('are pops when they are short, and wind when they last', () => {
    expect(kinds([2, 2.08, -20])).toEqual(['pop'])
    expect(kinds([2, 3, -20])).toEqual(['wind'])
  })
  it('are where they are, and as loud', () => {
    const [gust] = burstsIn(levels([2, 3, -20]), -23)
    expect(gust!.fromS).toBeCloseTo(2, 1)
    expect(gust!.toS).toBeCloseTo(3, 1)
    expect(gust!.levelDbfs).toBe(-20)
    expect(gust!.overDb).toBeGreaterThan(10)
  })
  it('that pass the limit only now and then are one weak gust', () => {
    const [gust, ...others] = burstsIn(levels([2, 3, -41], [2.1, 2.15, -30], [2.7, 2.75, -30]), -23)
    expect(others).toEqual([])
    expect(gust!.kind).toBe('wind')
    expect(Math.abs(gust!.fromS - 2)).toBeLessThan(0.05)
    expect(Math.abs(gust!.toS - 3)).toBeLessThan(0.05)
    // the same peaks over nothing are pops
    expect(kinds([2.1, 2.15, -30], [2.7, 2.75, -30])).toEqual(['pop', 'pop'])
  })
  it('that falter are one gust, and far from each other several pops', () => {
    expect(kinds([2, 2.15, -20], [2.45, 2.6, -20], [2.9, 3.05, -20])).toEqual(['wind'])
    expect(kinds([2, 2.08, -20], [4, 4.08, -20])).toEqual(['pop', 'pop'])
  })
  it('are none where the rest is louder by more than a bass has it, or the voice is', () => {
    expect(kinds([2, 3, -20, -5])).toEqual([])
    expect(kinds([2, 3, -45])).toEqual([])
  })
  it('are none just after a loud word that had as much of it in it', () => {
    expect(kinds([2, 3, -20, -5], [3, 3.01, -20, -60], [3.01, 5, -60, -60])).toEqual([])
  })
  it('are none where it is always as deep', () => {
    expect(kinds([0, 10, -20])).toEqual([])
  })
})
