import { describe, expect, it } from 'vitest'
import { recordedPeakDb, type Run } from '../levels'
import { runOf } from '../tests/runs'
import { amplitudeDb } from '../units'
import { peakWords } from './peaks'

describe('peaks as they are read', () => {
  const { end } = runOf()
  it('are those of the file up to full scale, and cut beyond it', () => {
    expect(peakWords({ end, peakDb: -13.2 })).toBe('\u221213.2 dBFS')
    expect(peakWords({ end, peakDb: 0.04 })).toBe('0.0 dBFS')
    expect(peakWords({ end, peakDb: 43.5 })).toBe('cut at full scale, 43.5 dB too hot')
  })
  describe('that pass a ceiling on the way', () => {
    const ceiling = { at: 'output', levelDb: 0, shape: 'flat', onset: false } as const
    /** Of a whole of so much, one run is cut at so much: amplitudes. */
    const cut = (whole: number, own: number, at: number) => {
      const run = runOf()
      const headroomDb = amplitudeDb(at / own)
      return {
        ...run,
        peakDb: amplitudeDb(whole),
        points: [{ gainFromSourceDb: 12 } as Run['points'][number]],
        tightest: { point: 0, ceiling: { ...ceiling, atSourceDb: amplitudeDb(at) - 12, headroomDb } },
      }
    }
    it('are no higher than that lets through', () => {
      expect(recordedPeakDb(cut(0.9, 0.9, 0.1))).toBeCloseTo(-20, 9)
      expect(peakWords(cut(0.9, 0.9, 0.1))).toBe('\u221220.0 dBFS, cut by 19.1 dB')
      expect(recordedPeakDb(cut(0.5, 0.5, 0.6))).toBeCloseTo(amplitudeDb(0.5), 9)
    })
    it('and what comes from elsewhere adds up as before', () => {
      expect(recordedPeakDb(cut(0.8, 0.5, 0.1))).toBeCloseTo(amplitudeDb(0.4), 9)
    })
  })
  it('may stand higher in floating point, and are pressure at the ear', () => {
    expect(peakWords({ end: { ...end, aim: { floating: true, lowerDb: 0 } }, peakDb: 4 })).toBe('+4.0 dBFS')
    expect(peakWords({ end: { ...end, kind: 'listen' }, peakDb: 88 })).toBe('88.0 dB SPL')
  })
})
