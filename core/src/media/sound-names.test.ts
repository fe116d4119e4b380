import { describe, expect, it } from 'vitest'
import { mayHoldSound, soundFiles } from './index'

describe('names of files in a folder', () => {
  it.each(['F-0131.wav', 'C-0042.MOV', 'take.one.flac', 'a.b.Mp4'])('%s is worth opening', (name) => {
    expect(mayHoldSound(name)).toBe(true)
  })
  it.each(['notes.txt', '._F-0131.wav', '.wav', 'wav', 'C-0042.THM', 'C-0042.mov.xml'])(
    '%s is not',
    (name) => {
      expect(mayHoldSound(name)).toBe(false)
    },
  )
  it('are the same for a file dialog', () => {
    expect(soundFiles.split(',')).toContain('.mov')
  })
})
