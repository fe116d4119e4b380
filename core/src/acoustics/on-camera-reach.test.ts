import { describe, expect, it } from 'vitest'
import { scene } from '../tests/demo'
import { cameraDistanceM, candidatePlaces, hearing, onCameraReach } from './index'

const { brief } = scene('1-the-founder-at-the-bench')
const [source] = brief.sources

describe('a microphone on the camera', () => {
  it('holds the voice up to the lens and the framing that are stated, and no farther', () => {
    for (const wanted of [3, 25, 40]) {
      const asked = { ...brief, wantedSpeechToNoiseDb: wanted }
      const reach = onCameraReach(asked, source!.id)!
      const holds = (distanceM: number) => {
        const { overEverythingDb, directDba, noiseDba } = hearing(asked, source as never, distanceM, 0, 0.37)
        // speech-to-noise is asked over the noise, as levels count it; echo is the voice's own
        return overEverythingDb >= 10 && directDba - noiseDba >= wanted
      }
      const { framing, focalLengthMm, sensor } = asked.picture
      const at = (mm: number, of = framing) => holds(cameraDistanceM(of, mm, sensor))
      expect([at(reach.longestLensMm * 0.999), at(reach.longestLensMm * 1.001)]).toEqual([true, false])
      const all = ['face', 'head and shoulders', 'waist-up', 'knees-up', 'whole figure', 'wide'] as const
      expect(reach.widestFraming).toBe(all.filter((each) => at(focalLengthMm, each)).at(-1))
      expect(reach.holds).toBe(at(focalLengthMm))
    }
  })
  it('agrees with the ranked places, and is nothing to a line feed', () => {
    const reach = onCameraReach({ ...brief, wantedSpeechToNoiseDb: 0 }, source!.id)!
    expect(reach).toMatchObject({ clearDb: 10, wantedDb: undefined })
    const place = candidatePlaces(brief, source!.id).find(
      ({ name, pattern }) => name === 'on the camera' && pattern === 0.37,
    )!
    expect(place.overEverythingDb >= 10).toBe(reach.holds)
    const hall = scene('4-bells-in-the-town-hall').brief
    expect(onCameraReach(hall, hall.sources.find(({ kind }) => kind === 'line')!.id)).toBeUndefined()
  })
})
