import { describe, expect, it } from 'vitest'
import { isolated, shortName, withUnits } from './short-name'

describe('a short name', () => {
  it('is the name where there is room for it', () => {
    expect(shortName('boom from above')).toBe('boom from above')
  })
  it('is cut between letters as a reader counts them', () => {
    expect(shortName('\u{1F468}\u200D\u{1F527}\u{1F468}\u200D\u{1F527}\u{1F468}\u200D\u{1F527}', 2)).toBe(
      '\u{1F468}\u200D\u{1F527}\u2026',
    )
    expect(shortName('e\u0301e\u0301e\u0301', 2)).toBe('e\u0301\u2026')
  })
  it('from right to left does not turn what stands beside it', () => {
    expect(isolated('\u05DE\u05D9\u05E7 12')).toBe('\u2068\u05DE\u05D9\u05E7 12\u2069')
    expect(isolated('Kamera 2 \u{1F514}')).toBe('Kamera 2 \u{1F514}')
  })
  it('keeps a figure with its unit', () => {
    expect(withUnits('XLR cable, 1.5 m')).toBe('XLR cable, 1.5\u00A0m')
    expect(withUnits('Mini pad, 25 dB, 2 more')).toBe('Mini pad, 25\u00A0dB, 2 more')
  })
})
