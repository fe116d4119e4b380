import { describe, expect, it } from 'vitest'
import { termedText, termOf, terms } from './terms'

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
  it('are distinguished in a sentence, each where it first stands, whole words only', () => {
    expect(termedText('Phantom power is off; phantom power needs 48 V, padded or not.')).toEqual([
      { text: 'Phantom power', term: 'phantom power' },
      { text: ' is off; ' },
      { text: 'phantom power' },
      { text: ' needs 48 V, padded or not.' },
    ])
    expect(termedText('microphone level')).toEqual([{ text: 'microphone level', term: 'microphone level' }])
  })
})
