import { amplitudeDb } from './decibel'
import { calibratorSplDb } from './pressure'
import { dbuFromDbv, dbuFromVolts, dbuMinusDbv } from './voltage'
import { flatNoiseADb } from './weighting'

/** A unit that figures of gear are kept in here. */
export type FigureUnit =
  | 'dBV/Pa'
  | 'dB(A) SPL'
  | 'dB SPL'
  | 'dBu'
  | 'dBu(A)'
  | 'dBFS(A)'
  | 'dB'
  | 'ohm'
  | 'dB SPL at 1 V'
  | 'm'
  | 'pF'
  | 'pF/m'
  | '\u00B5F'
  | 'H'
  | 'V'
  | 'A'
  | 'mW'
  | 'dBm'
  | 's'
  | 'ms'
  | 'Hz'
  | 'kHz'
  | 'MHz'
  | ': 1'

/** A unit that a maker's sheet prints, as one of ours. `rule` marks what rests on an assumption. */
export interface SheetUnit {
  name: string
  into: (printed: number) => number
  rule?: string
}

const flat = 'taken as even from 20 Hz to 20 kHz'
const bandHz = 20_000 - 20

/**
 * What sheets print for each of our units, and how it becomes ours. 1 Pa is 94 dB SPL; dBu is dBV + 2.218; noise that
 * is even from 20 Hz to 20 kHz reads 2.05 dB less A-weighted (computed from the curve).
 */
export const sheetUnits: Record<FigureUnit, readonly SheetUnit[]> = {
  'dBV/Pa': [
    { name: 'dBV/Pa', into: (db) => db },
    { name: 'mV/Pa', into: (millivolts) => amplitudeDb(millivolts / 1000) },
    { name: 'dBu/Pa', into: (db) => db - dbuMinusDbv },
    { name: 'dB re 1 V/\u00B5bar', into: (db) => db + 20 },
  ],
  'dB(A) SPL': [
    { name: 'dB(A) SPL', into: (db) => db },
    { name: 'dB SPL, not weighted', into: (db) => db + flatNoiseADb, rule: flat },
    { name: 'dB signal-to-noise re 94 dB, A', into: (db) => calibratorSplDb - db },
    { name: 'dB SPL, quasi-peak', into: (db) => db - 11, rule: 'a rule of thumb: 11 dB over A' },
  ],
  'dB SPL': [
    { name: 'dB SPL', into: (db) => db },
    { name: 'Pa', into: (pascal) => amplitudeDb(pascal / 20e-6) },
    { name: 'dB SPL peak', into: (db) => db - 3.01, rule: 'of a sine' },
  ],
  dBu: [
    { name: 'dBu', into: (db) => db },
    { name: 'dBV', into: dbuFromDbv },
    { name: 'V RMS', into: dbuFromVolts },
    { name: 'mV RMS', into: (millivolts) => dbuFromVolts(millivolts / 1000) },
    { name: 'V peak to peak', into: (volts) => dbuFromVolts(volts / 2 / Math.SQRT2), rule: 'of a sine' },
  ],
  'dBu(A)': [
    { name: 'dBu(A)', into: (db) => db },
    { name: 'dBu, not weighted', into: (db) => db + flatNoiseADb, rule: flat },
    { name: 'dBV(A)', into: dbuFromDbv },
    { name: 'dBV, not weighted', into: (db) => dbuFromDbv(db) + flatNoiseADb, rule: flat },
    {
      name: '\u00B5V RMS, not weighted',
      into: (microvolts) => dbuFromVolts(microvolts * 1e-6) + flatNoiseADb,
      rule: flat,
    },
    {
      name: 'nV/\u221AHz',
      into: (nanovolts) => dbuFromVolts(nanovolts * 1e-9 * Math.sqrt(bandHz)) + flatNoiseADb,
      rule: flat,
    },
  ],
  'dBFS(A)': [
    { name: 'dBFS(A)', into: (db) => db },
    { name: 'dB dynamic range, A', into: (db) => -db },
    { name: 'dB dynamic range, not weighted', into: (db) => -db + flatNoiseADb, rule: flat },
  ],
  dB: [{ name: 'dB', into: (db) => db }],
  m: [
    { name: 'm', into: (metres) => metres },
    { name: 'ft', into: (feet) => feet * 0.3048 },
  ],
  pF: [
    { name: 'pF', into: (picofarad) => picofarad },
    { name: 'nF', into: (nanofarad) => nanofarad * 1000 },
  ],
  'pF/m': [
    { name: 'pF/m', into: (picofarad) => picofarad },
    { name: 'pF/ft', into: (picofarad) => picofarad / 0.3048 },
  ],
  '\u00B5F': [
    { name: '\u00B5F', into: (microfarad) => microfarad },
    { name: 'nF', into: (nanofarad) => nanofarad / 1000 },
  ],
  H: [{ name: 'H', into: (henry) => henry }],
  V: [
    { name: 'V', into: (volts) => volts },
    { name: 'mV', into: (millivolts) => millivolts / 1000 },
  ],
  A: [
    { name: 'A', into: (amperes) => amperes },
    { name: 'mA', into: (milliamperes) => milliamperes / 1000 },
  ],
  mW: [
    { name: 'mW', into: (milliwatts) => milliwatts },
    { name: 'dBm', into: (dbm) => 10 ** (dbm / 10) },
  ],
  dBm: [
    { name: 'dBm', into: (dbm) => dbm },
    {
      name: '\u00B5V at 50 ohm',
      into: (microvolts) => 10 * Math.log10((microvolts * 1e-6) ** 2 / 50 / 1e-3),
    },
  ],
  s: [{ name: 's', into: (seconds) => seconds }],
  ms: [{ name: 'ms', into: (milliseconds) => milliseconds }],
  Hz: [{ name: 'Hz', into: (hertz) => hertz }],
  kHz: [{ name: 'kHz', into: (kilohertz) => kilohertz }],
  MHz: [{ name: 'MHz', into: (megahertz) => megahertz }],
  ': 1': [{ name: ': 1', into: (ratio) => ratio }],
  ohm: [
    { name: 'ohm', into: (ohm) => ohm },
    { name: 'kohm', into: (kilohm) => kilohm * 1000 },
    { name: 'Mohm', into: (megohm) => megohm * 1e6 },
  ],
  'dB SPL at 1 V': [
    { name: 'dB SPL at 1 V', into: (db) => db },
    {
      name: 'dB SPL at 1 mW, 32 ohm',
      into: (db) => db + 10 * Math.log10(1000 / 32),
      rule: 'for 32 ohm phones; S + 10 lg(1000 / Z)',
    },
    {
      name: 'dB SPL at 1 mW, 63 ohm',
      into: (db) => db + 10 * Math.log10(1000 / 63),
      rule: 'for 63 ohm phones',
    },
  ],
}
