import { describe, expect, it } from 'vitest'
import { runOf } from '../tests/runs'
import { peakWords } from './peaks'

describe('peaks as they are read', () => {
  const { end } = runOf()
  it('are those of the file up to full scale, and cut beyond it', () => {
    expect(peakWords({ end, peakDb: -13.2 })).toBe('\u221213.2 dBFS')
    expect(peakWords({ end, peakDb: 0.04 })).toBe('0.0 dBFS')
    expect(peakWords({ end, peakDb: 43.5 })).toBe('cut at full scale, 43.5 dB too hot')
  })
  it('may stand higher in floating point, and are pressure at the ear', () => {
    expect(peakWords({ end: { ...end, aim: { floating: true, lowerDb: 0 } }, peakDb: 4 })).toBe('+4.0 dBFS')
    expect(peakWords({ end: { ...end, kind: 'listen' }, peakDb: 88 })).toBe('88.0 dB SPL')
  })
})
