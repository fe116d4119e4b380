import { describe, expect, it } from 'vitest'
import { reachWords } from './index'

describe('how far a microphone on the camera holds', () => {
  const metres = (value: number) => `${value.toFixed(1)} m`
  const reach = { wantedDb: 10, farthestM: 1, distanceM: 2.7, longestLensMm: 13.2 }
  it('is told with what it allows the picture', () => {
    expect(reachWords({ ...reach, holds: false, widestFraming: 'face' }, metres)).toBe(
      'On the camera (2.7 m) a microphone does not hold: 10.0 dB over noise and echo are there up to 1.0 m. At this framing that is a lens of 13 mm; with this lens, nothing wider than face.',
    )
  })
  it('names no lens and no framing where none is left', () => {
    const near = reachWords({ ...reach, longestLensMm: 0.4, holds: false, widestFraming: undefined }, metres)
    expect(near).toMatch(/no lens at all; with this lens no framing is near enough/)
  })
})
