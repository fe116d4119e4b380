import { describe, expect, it } from 'vitest'
import { type Control, hasPosition, typedPosition } from './control'

const knob: Control = {
  kind: 'knob',
  id: 'gain',
  name: 'Gain',
  minimum: -10,
  maximum: 36,
  click: 2,
  unit: 'dB',
  initial: 0,
}
const scale: Control = { kind: 'scale', id: 'level', name: 'Level', steps: 32, initial: 10 }

describe('a typed position', () => {
  it.each([
    [knob, '12', 12],
    [knob, '+12 dB', 12],
    [knob, '12,9', 12],
    [knob, '\u221210', -10],
    [knob, '36.9', 36],
    [scale, '7', 7],
    [scale, '7 of 31', 7],
    [scale, '31.4', 31],
  ])('of %o: %s', (control, text, position) => {
    expect(typedPosition(control, text)).toBe(position)
    expect(hasPosition(control, typedPosition(control, text)!)).toBe(true)
  })
  it.each([
    [knob, '40'],
    [knob, '-14'],
    [knob, 'much'],
    [knob, ''],
    [knob, '12 m'],
    [scale, '32'],
    [scale, '-1'],
  ])('that there is none of %o: %s', (control, text) => {
    expect(typedPosition(control, text)).toBeUndefined()
  })
})
