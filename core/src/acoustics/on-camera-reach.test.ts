import { describe, expect, it } from 'vitest'
import { scene } from '../tests/demo'
import { cameraDistanceM, candidatePlaces, hearing, onCameraReach } from './index'

const { brief } = scene('1-the-founder-at-the-bench')
const [source] = brief.sources

describe('a microphone on the camera', () => {
  it('holds the voice up to the lens and the framing that are told, and no farther', () => {
    for (const wanted of [3, 10, 18]) {
      const asked = { ...brief, wantedSpeechToNoiseDb: wanted }
      const reach = onCameraReach(asked, source!.id)!
      const keeps = (distanceM: number) =>
        hearing(asked, source as never, distanceM, 0, 0.37).overEverythingDb
      expect(keeps(reach.farthestM)).toBeCloseTo(wanted, 6)
      const { framing, focalLengthMm, sensor } = asked.picture
      const at = (mm: number, of = framing) => keeps(cameraDistanceM(of, mm, sensor))
      expect(at(reach.longestLensMm * 0.99)).toBeGreaterThan(wanted)
      expect(at(reach.longestLensMm * 1.01)).toBeLessThan(wanted)
      const all = ['face', 'head and shoulders', 'waist-up', 'knees-up', 'whole figure', 'wide'] as const
      const held = all.filter((each) => at(focalLengthMm, each) >= wanted)
      expect(reach.widestFraming).toBe(held.at(-1))
      expect(reach.holds).toBe(keeps(cameraDistanceM(framing, focalLengthMm, sensor)) >= wanted)
    }
  })
  it('agrees with the ranked places, and is nothing to a line feed', () => {
    const reach = onCameraReach({ ...brief, wantedSpeechToNoiseDb: 0 }, source!.id)!
    expect(reach.wantedDb).toBe(10)
    const place = candidatePlaces(brief, source!.id).find(
      ({ name, pattern }) => name === 'on the camera' && pattern === 0.37,
    )!
    expect(place.overEverythingDb >= 10).toBe(reach.holds)
    const hall = scene('4-bells-in-the-town-hall').brief
    expect(onCameraReach(hall, hall.sources.find(({ kind }) => kind === 'line')!.id)).toBeUndefined()
  })
})
