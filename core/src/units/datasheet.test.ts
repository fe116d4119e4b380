import { describe, expect, it } from 'vitest'
import { sheetUnits } from './datasheet'

/**
 * Worked out by hand from the definitions: 0 dBu is 0.7746 V, 0 dBV 1 V, 0 dBm 1 mW, 94 dB SPL 1 Pa; noise that is even
 * over the audio band reads 2.05 dB less A-weighted.
 */
const known: [unit: keyof typeof sheetUnits, name: string, printed: number, ours: number][] = [
  ['dBV/Pa', 'mV/Pa', 10, -40],
  ['dBV/Pa', 'dBu/Pa', -37.78, -40],
  ['dBV/Pa', 'dB re 1 V/\u00B5bar', -60, -40],
  ['dB(A) SPL', 'dB SPL, not weighted', 20, 17.95],
  ['dB(A) SPL', 'dB signal-to-noise re 94 dB, A', 80, 14],
  ['dB(A) SPL', 'dB SPL, quasi-peak', 26, 15],
  ['dB SPL', 'Pa', 20, 120],
  ['dB SPL', 'dB SPL peak', 133, 129.99],
  ['dBu', 'dBV', -10, -7.78],
  ['dBu', 'V RMS', 7.746, 20],
  ['dBu', 'mV RMS', 774.6, 0],
  ['dBu', 'V peak to peak', 2.191, 0],
  ['dBu(A)', 'dBu, not weighted', -125, -127.05],
  ['dBu(A)', 'dBV(A)', -130, -127.78],
  ['dBu(A)', 'dBV, not weighted', -130, -129.83],
  ['dBu(A)', '\u00B5V RMS, not weighted', 0.7746, -122.05],
  // 1 nV over the root of 19,980 Hz is 0.1413 uV
  ['dBu(A)', 'nV/\u221AHz', 1, -136.83],
  ['dBFS(A)', 'dB dynamic range, A', 110, -110],
  ['dBFS(A)', 'dB dynamic range, not weighted', 110, -112.05],
  ['ohm', 'kohm', 1.5, 1500],
  ['ohm', 'Mohm', 0.01, 10_000],
  ['m', 'ft', 10, 3.048],
  ['pF', 'nF', 0.1, 100],
  ['pF/m', 'pF/ft', 30.48, 100],
  ['\u00B5F', 'nF', 470, 0.47],
  ['V', 'mV', 2500, 2.5],
  ['A', 'mA', 10, 0.01],
  ['mW', 'dBm', 20, 100],
  // 1 mW in 32 ohm is 178.9 mV, in 63 ohm 251.0 mV
  ['dB SPL at 1 V', 'dB SPL at 1 mW, 32 ohm', 100, 114.95],
  ['dB SPL at 1 V', 'dB SPL at 1 mW, 63 ohm', 100, 112.01],
  // 0 dBm in 50 ohm is 223.6 mV
  ['dBm', '\u00B5V at 50 ohm', 223_607, 0],
]

describe('what datasheets print', () => {
  it.each(known)('in %s: %s of %d is %d', (unit, name, printed, ours) => {
    expect(sheetUnits[unit].find((each) => each.name === name)!.into(printed)).toBeCloseTo(ours, 1)
  })
  it('is all in this table, but for what is ours already', () => {
    const others = Object.entries(sheetUnits).flatMap(([unit, list]) =>
      list.filter(({ name }) => name !== unit).map(({ name }) => `${unit}: ${name}`),
    )
    const tried = new Set(known.map(([unit, name]) => `${unit}: ${name}`))
    expect(others.filter((each) => !tried.has(each))).toEqual([])
  })
})
