import { describe, expect, it } from 'vitest'
import { monoLosses, type RecordedChannel } from './index'

/** Two channels of one box that hold one source, the second at another gain or the other way up. */
const pair = (gainDb: number, sign: 1 | -1): RecordedChannel[] =>
  (['left', 'right'] as const).map((track, index) => ({
    id: `camera.${track}`,
    name: `Camera, ${track}`,
    box: 'camera',
    boxName: 'Camera',
    track,
    sources: ['speaker'],
    holds: [
      { source: 'speaker', by: 'boom', gainDb: index ? gainDb : 0, sign: index ? sign : 1, typicalDb: -20 },
    ],
  }))

describe('a sum to mono', () => {
  it('is silence where both halves are equal and one is upside down', () => {
    expect(monoLosses(pair(0, -1))[0]!.leftDb).toBe(-Infinity)
  })
  it('leaves what arithmetic says where they are not quite equal', () => {
    // 1 - 10^(-1/20) of the louder
    expect(monoLosses(pair(-1, -1))[0]!.leftDb).toBeCloseTo(20 * Math.log10(1 - 10 ** (-1 / 20)), 9)
  })
  it('loses nothing the same way up, and little where one half is far softer', () => {
    expect(monoLosses(pair(0, 1))).toEqual([])
    expect(monoLosses(pair(-12, -1))).toEqual([])
  })
})
