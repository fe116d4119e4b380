import { describe, expect, it } from 'vitest'
import { cameraDistanceM } from '../acoustics'
import { Brief } from '../model'
import { placeFor } from './place-for'

const briefOf = (kind: 'speech' | 'strike') =>
  Brief.parse({
    sources: [{ kind, id: 'it', name: 'it', levelsDba: { quietest: 60, typical: 70, loudest: 80 } }],
    picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
    room: { name: 'yard', volumeM3: 1000, reverberationS: 0.1, outdoors: true },
  })

describe('a place for a microphone', () => {
  it('is on the body of who speaks, and beside what does not', () => {
    expect(placeFor(briefOf('speech'), 'worn', { id: 'a' })).toMatchObject({
      name: 'a hand\u2019s width under the chin',
      hears: [{ source: 'it', distanceM: 0.2 }],
    })
    for (const mount of ['worn', 'hand'] as const) {
      const beside = placeFor(briefOf('strike'), mount, { id: 'a' })
      expect(beside).toMatchObject({ name: 'fixed beside it', hears: [{ distanceM: 1 }] })
      // as far off as such a thing wants it
      expect(placeFor(briefOf('strike'), mount, { id: 'a', boomM: 1.5 }).hears[0]!.distanceM).toBe(1.5)
    }
  })
  it('is on a stand before what does not speak', () => {
    expect(placeFor(briefOf('strike'), 'boom', { id: 'a', boomM: 6 }).name).toBe('on a stand')
    expect(placeFor(briefOf('speech'), 'boom', { id: 'a' }).name).toBe('on a boom, from above')
  })
  it('is as far off as a boom may come, or as the camera films from', () => {
    expect(placeFor(briefOf('speech'), 'boom', { id: 'a', boomM: 2 }).hears[0]!.distanceM).toBe(2)
    expect(placeFor(briefOf('strike'), 'camera', { id: 'a', boomM: 2 }).hears[0]!.distanceM).toBeCloseTo(
      cameraDistanceM('wide', 24, 'APS-C'),
      9,
    )
  })
})
