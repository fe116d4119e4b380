import { describe, expect, it } from 'vitest'
import { termOf, terms } from './terms'

describe('terms', () => {
  it('are each there once, and explained in whole sentences', () => {
    expect(new Set(terms.map(({ name }) => name)).size).toBe(terms.length)
    for (const { means } of terms) {
      expect(means).toMatch(/^[A-Z].*\.$/)
      expect(means.length).toBeLessThan(240)
    }
  })
  it('are found by their name', () => {
    expect(termOf('headroom')?.means).toMatch(/before something clips/)
    expect(termOf('no such')).toBeUndefined()
  })
})
