import { describe, expect, it } from 'vitest'
import { reachWords } from './index'

describe('how far a microphone on the camera holds', () => {
  const metres = (value: number) => `${value.toFixed(1)} m`
  const reach = {
    clearDb: 10,
    wantedDb: undefined,
    farthestM: 1,
    isVoice: true,
    distanceM: 2.7,
    longestLensMm: 13.2,
  }
  it('is stated with what it allows the picture', () => {
    expect(reachWords({ ...reach, holds: false, widestFraming: 'face' }, metres)).toBe(
      'A microphone on the camera is 2.7 m away, which is not close enough: up to 1.0 m the voice keeps 10.0 dB over noise and echo. For this framing that means a lens of at most 13 mm; with this lens, frame no wider than face.',
    )
    expect(reachWords({ ...reach, wantedDb: 30, holds: true, widestFraming: 'wide' }, metres)).toMatch(
      /which is close enough: .* and the 30\.0 dB over the noise that the brief asks for\./,
    )
  })
  it('speaks of sound where nobody speaks, and of no limit where nothing else is heard', () => {
    const sound = { ...reach, isVoice: false, holds: true, widestFraming: 'wide' as const }
    expect(reachWords(sound, metres)).toMatch(/up to 1\.0 m the sound keeps/)
    expect(reachWords({ ...sound, farthestM: Infinity, longestLensMm: Infinity }, metres)).toBe(
      'A microphone on the camera is 2.7 m away. Nothing else is heard here, so only hiss limits how far away it may be.',
    )
  })
  it('names no lens and no framing where none is left', () => {
    const near = reachWords({ ...reach, longestLensMm: 0.4, holds: false, widestFraming: undefined }, metres)
    expect(near).toMatch(
      /No lens frames this from so close; with this lens no framing brings the camera that close\.$/,
    )
  })
})
