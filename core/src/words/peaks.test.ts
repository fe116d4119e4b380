import { describe, expect, it } from 'vitest'
import { recordedPeakDb } from '../levels'
import { runOf } from '../tests/runs'
import { peakWords } from './peaks'

describe('peaks as they are read', () => {
  const { end } = runOf()
  it('are those of the file up to full scale, and cut beyond it', () => {
    expect(peakWords({ end, peakDb: -13.2 })).toBe('\u221213.2 dBFS')
    expect(peakWords({ end, peakDb: 0.04 })).toBe('0.0 dBFS')
    expect(peakWords({ end, peakDb: 43.5 })).toBe('cut at full scale, 43.5 dB too hot')
  })
  it('are no higher than a ceiling on the way lets through', () => {
    const ceiling = { at: 'output', levelDb: 0, shape: 'flat', atSourceDb: 0, onset: false } as const
    const passed = (headroomDb: number) => ({
      ...runOf(),
      peakDb: -0.7,
      tightest: { point: 0, ceiling: { ...ceiling, headroomDb } },
    })
    expect(peakWords(passed(-19.3))).toBe('cut at \u221220.0 dBFS, 19.3 dB too hot')
    expect(recordedPeakDb(passed(-19.3))).toBeCloseTo(-20, 9)
    expect(recordedPeakDb(passed(3))).toBe(-0.7)
  })
  it('may stand higher in floating point, and are pressure at the ear', () => {
    expect(peakWords({ end: { ...end, aim: { floating: true, lowerDb: 0 } }, peakDb: 4 })).toBe('+4.0 dBFS')
    expect(peakWords({ end: { ...end, kind: 'listen' }, peakDb: 88 })).toBe('88.0 dB SPL')
  })
})
