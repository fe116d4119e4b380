import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import * as units from './index'

describe('decibels', () => {
  it('adds uncorrelated noise by power: two equal levels give 3.01 dB more', () => {
    expect(units.powerSumDb([-60, -60])).toBeCloseTo(-56.9897, 4)
    expect(units.powerSumDb([])).toBe(-Infinity)
  })
  it('comes back from every conversion', () => {
    fc.assert(
      fc.property(fc.double({ min: -160, max: 60, noNaN: true }), (db) => {
        expect(units.powerDb(units.powerFromDb(db))).toBeCloseTo(db, 9)
        expect(units.amplitudeDb(units.amplitudeFromDb(db))).toBeCloseTo(db, 9)
        expect(units.dbvFromDbu(units.dbuFromDbv(db))).toBeCloseTo(db, 9)
        expect(units.dbuFromVolts(units.voltsFromDbu(db))).toBeCloseTo(db, 9)
      }),
    )
  })
  it('gives a sine its own level as sine-equivalent peak', () => {
    expect(units.sineEquivalentPeakDb(-20, units.sineCrestDb)).toBe(-20)
  })
})

describe('references', () => {
  it('agrees with the published constants', () => {
    expect(units.onePascalSplDb).toBeCloseTo(93.979, 3)
    expect(units.dbuMinusDbv).toBeCloseTo(2.218, 3)
    expect(units.voltsFromDbu(0)).toBeCloseTo(0.774597, 6)
    expect(units.voltsFromDbu(4)).toBeCloseTo(1.2277, 4)
  })
})

describe('A-weighting', () => {
  // IEC 61672-1, table 3, design goals rounded to 0.1 dB
  const table: [number, number][] = [
    [31.623, -39.4],
    [63.096, -26.2],
    [125.89, -16.1],
    [251.19, -8.6],
    [501.19, -3.2],
    [1000, 0],
    [1995.3, 1.2],
    [3981.1, 1.0],
    [7943.3, -1.1],
    [15849, -6.6],
  ]
  it.each(table)('is the tabulated value at %f Hz', (frequencyHz, db) => {
    expect(units.aWeightingDb(frequencyHz)).toBeCloseTo(db, 0.9)
    expect(Math.abs(units.aWeightingDb(frequencyHz) - db)).toBeLessThan(0.06)
  })
  it('takes about 2.05 dB off flat audio-band noise', () => {
    expect(units.flatNoiseADb).toBeCloseTo(-2.05, 1)
  })
})

describe('thermal noise', () => {
  it('is the well-known -130.9 dBu unweighted for 150 ohm', () => {
    expect(units.thermalNoiseDbuA(150) - units.flatNoiseADb).toBeCloseTo(-130.9, 1)
  })
  it('of an amplifier is what its sheet says without the source that it was stated for', () => {
    const power = (db: number) => 10 ** (db / 10)
    const own = units.ownNoiseDbuA(-127, 150)
    expect(power(own) + units.thermalPowerA(150)).toBeCloseTo(power(-127), 18)
    // a figure under the thermal noise of its own source leaves a tenth, and never nothing
    expect(units.ownNoiseDbuA(-135, 150)).toBeCloseTo(-145, 9)
  })
})

describe('clock', () => {
  it('writes what a slate would say', () => {
    expect(units.clock(137)).toBe('2:17')
    expect(units.clock(3725.34, 1)).toBe('1:02:05.3')
    expect(units.clock(59.97, 1)).toBe('1:00.0')
    expect(units.clock(-3)).toBe('-0:03')
  })
})
