import { describe, expect, it } from 'vitest'
import { chanceWords } from './chances'

describe('chances in words', () => {
  it('are said as a person would', () => {
    expect([0, 0.01, 0.2, 1].map(chanceWords)).toEqual([
      'less than one take in a thousand',
      'one take in 100',
      '20 takes in a hundred',
      'nearly every take',
    ])
  })
})
