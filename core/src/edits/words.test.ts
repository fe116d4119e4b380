import { describe, expect, it } from 'vitest'
import { lineSources } from '../model'
import { scene, shelf } from '../tests/demo'
import { editWords } from './words'

describe('edits in words', () => {
  const bench = scene('1-the-founder-at-the-bench')
  const words = (edit: Parameters<typeof editWords>[0]) => editWords(edit, bench, shelf)
  it('name the control, the box and the position as the chain does', () => {
    expect(words({ kind: 'set control', part: 'recorder', control: 'gain-1', position: 41 })).toBe(
      'Gain 1 of Recorder to 41 dB',
    )
    expect(words({ kind: 'lock control', part: 'camera', control: 'level', locked: true })).toMatch(
      /of Camera locked$/,
    )
    expect(words({ kind: 'swap', part: 'camera', gear: 'fennimore-old-reflex' })).toMatch(
      /^Camera exchanged for .*reflex/i,
    )
  })
  it('say what a desk carries', () => {
    const hall = scene('4-bells-in-the-town-hall')
    const [line] = lineSources(hall)
    expect(editWords({ kind: 'feed box', box: 'desk', source: line!.id }, hall, shelf)).toMatch(
      new RegExp(`carries ${line!.name}$`),
    )
    expect(editWords({ kind: 'feed box', box: 'desk', source: null }, hall, shelf)).toMatch(
      /carries nothing$/,
    )
  })
  it('fall back on ids where nothing else is known any more', () => {
    expect(words({ kind: 'remove piece', piece: 'gone' })).toBe('gone taken out')
    expect(words({ kind: 'set control', part: 'gone', control: 'x', position: 3 })).toBe('x of gone to 3')
  })
  it('say which parts of the brief changed', () => {
    expect(words({ kind: 'change brief', to: { wind: 'gusts', noises: [] } })).toBe(
      'brief changed: wind, noises of the place',
    )
  })
})
