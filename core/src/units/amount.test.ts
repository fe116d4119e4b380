import { describe, expect, it } from 'vitest'
import { typedAmount } from './amount'

describe('what people type as an amount', () => {
  it.each([
    ['94,5', 'dB(A)', 94.5],
    ['94.5', 'dB(A)', 94.5],
    ['94,5 dB', 'dB(A)', 94.5],
    ['94.5 dB(A)', 'dB(A)', 94.5],
    ['\u221212', 'dB', -12],
    ['45 cm', 'm', 0.45],
    ['45cm', 'm', 0.45],
    ['0,45', 'm', 0.45],
    ['.45 m', 'm', 0.45],
    ['1\' 6"', 'm', 0.4572],
    ['1 ft 6 in', 'm', 0.4572],
    ['900 ms', 's', 0.9],
    ['3.5 cm', 'mm', 35],
    ['0.1234567894', 'm', 0.123456789],
    ['16 dB', 'dB(A) SPL', 16],
    ['60 db spl', 'dB SPL', 60],
    ['10 mV/Pa', 'dBV/Pa', -40],
    ['1 mv/pa', 'dBV/Pa', -60],
    ['2,2 kohm', 'ohm', 2200],
    ['1 Mohm', 'ohm', 1e6],
    ['0 dBV', 'dBu', 2.2184875],
  ])('%s in %s is %d', (text, unit, amount) => {
    expect(typedAmount(text, unit)).toBeCloseTo(amount, 9)
  })
  it.each([
    ['', 'm'],
    ['loud', 'dB(A)'],
    ['12 apples', 'm'],
    ['45 cm', 'dB(A)'],
    ['1,234.5', 'm'],
    ['12 13', 'm'],
    ['1 m 2 cm 3 mm', 'm'],
    ['1 s 20 ms', 's'],
    ['--3', 'dB'],
    ['1e9', 'm'],
    ['1 mohm', 'ohm'],
    ['2 V peak to peak', 'dBu'],
  ])('"%s" in %s is none', (text, unit) => {
    expect(typedAmount(text, unit)).toBeUndefined()
  })
})
