import { describe, expect, it } from 'vitest'
import { Framing, Sensor } from '../model'
import {
  cameraDistanceM,
  diffuseLevelDb,
  directLevelDb,
  equivalentFocalLengthMm,
  vocalEffortName,
  vocalEfforts,
} from './index'

describe('vocal effort', () => {
  it('rises in steps of 6 dB from relaxed, after ISO 9921', () => {
    const spoken = vocalEfforts.filter(({ name }) => name !== 'whisper').map(({ levelDba }) => levelDba)
    spoken.slice(1).forEach((level, index) => expect(level - spoken[index]!).toBe(6))
  })
  it('names the nearest, and says so where a level is beyond all of them', () => {
    expect([38, 61, 80].map(vocalEffortName)).toEqual(['about whisper', 'about normal', 'about very loud'])
    expect([36, 94.5].map(vocalEffortName)).toEqual(['less than whisper', 'more than very loud'])
  })
})

describe('every framing on every sensor', () => {
  it('steps back for more in the picture, and for a smaller sensor with the same lens', () => {
    for (const sensor of Sensor.options) {
      const distances = Framing.options.map((framing) => cameraDistanceM(framing, 35, sensor))
      expect(distances).toEqual([...distances].sort((one, other) => one - other))
    }
    const bySize = Sensor.options.map((sensor) => cameraDistanceM('waist-up', 35, sensor))
    expect(bySize).toEqual([...bySize].sort((one, other) => one - other))
  })
  it('is its own equivalent on full frame', () => {
    expect(equivalentFocalLengthMm(50, 'full frame')).toBe(50)
    for (const sensor of Sensor.options)
      expect(equivalentFocalLengthMm(50, sensor)).toBeGreaterThanOrEqual(50)
  })
})

describe('a room', () => {
  const room = { volumeM3: 300, reverberationS: 1, outdoors: false }
  it('rings louder when it is smaller or rings longer, and not at all outdoors', () => {
    const level = diffuseLevelDb(60, room)
    expect(diffuseLevelDb(60, { ...room, volumeM3: 600 })).toBeCloseTo(level - 3.01, 2)
    expect(diffuseLevelDb(60, { ...room, reverberationS: 2 })).toBeCloseTo(level + 3.01, 2)
    expect(diffuseLevelDb(60, { ...room, outdoors: true })).toBe(-Infinity)
  })
  it('does not change with distance, while the direct sound does', () => {
    expect(directLevelDb(60, 0.5)).toBeCloseTo(66.02, 2)
    expect(directLevelDb(60, 1)).toBe(60)
  })
})
