import { describe, expect, it } from 'vitest'
import { chanceOfPreference } from './preference'

/** The same by counting all ways in which coins can fall. */
function counted(one: number, other: number): number {
  const total = one + other
  let extreme = 0
  for (let ways = 0; ways < 2 ** total; ways++) {
    const heads = ways.toString(2).replaceAll('0', '').length
    if (Math.max(heads, total - heads) >= Math.max(one, other)) extreme++
  }
  return extreme / 2 ** total
}

describe('what chance would do', () => {
  it.each([
    [0, 0],
    [1, 0],
    [5, 0],
    [4, 1],
    [3, 3],
    [9, 2],
    [2, 12],
  ])('of %i and %i is as counted', (one, other) => {
    expect(chanceOfPreference(one, other)).toBeCloseTo(counted(one, other), 12)
  })
})
