import { describe, expect, it } from 'vitest'
import {
  clock,
  decibels,
  difference,
  inMilliamperes,
  inVolts,
  percent,
  plainDecibels,
  signed,
  withMinus,
} from './index'

describe('figures as they are written', () => {
  it('carry a real minus, but not before nothing', () => {
    expect([signed(-3.26), signed(3.26, 2), signed(-0.04), signed(-0.04, 2), decibels(-12)]).toEqual([
      '\u22123.3',
      '3.26',
      '0.0',
      '\u22120.04',
      '\u221212.0 dB',
    ])
    expect(withMinus(-7)).toBe('\u22127')
  })
  it('have a sign where they are differences, and none where the sentence says which way', () => {
    expect([difference(0.05), difference(0.04), difference(-2)]).toEqual([
      '+0.1 dB',
      '0.0 dB',
      '\u22122.0 dB',
    ])
    expect(plainDecibels(-2)).toBe('2.0 dB')
  })
  it('are millivolts below a volt, volts from there on', () => {
    expect([inVolts(0.9994), inVolts(-0.05), inVolts(1), inVolts(-48)]).toEqual([
      '999 mV',
      '\u221250 mV',
      '1.00 V',
      '\u221248.00 V',
    ])
    expect(inMilliamperes(-0.0125)).toBe('12.50 mA')
    expect(percent(0.714)).toBe('71 %')
  })
})

describe('times of a clip', () => {
  it('are minutes and seconds, hours where there are some', () => {
    expect([clock(0), clock(59.6), clock(125.34, 1), clock(3725.3, 1), clock(-5), clock(3599.96, 1)]).toEqual(
      ['0:00', '1:00', '2:05.3', '1:02:05.3', '-0:05', '1:00:00.0'],
    )
  })
})
