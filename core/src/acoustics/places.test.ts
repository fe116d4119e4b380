import { describe, expect, it } from 'vitest'
import { Brief } from '../model'
import { cameraDistanceM, candidatePlaces, hearing, noisesTakenIn, placeNoiseDba } from './index'

const brief = Brief.parse({
  sources: [
    { kind: 'speech', id: 'founder', name: 'founder', levelsDba: { quietest: 54, typical: 60, loudest: 72 } },
    { kind: 'line', id: 'desk', name: 'desk', levelsDbu: { quietest: -10, typical: 0, loudest: 10 } },
  ],
  picture: { framing: 'waist-up', focalLengthMm: 35, sensor: 'APS-C' },
  room: { name: 'workshop', volumeM3: 200, reverberationS: 0.8 },
  noises: [
    { id: 'fans', name: 'fans', levelDba: 52, spectrum: 'ventilation' },
    { id: 'hammer', name: 'hammer', levelDba: 40, loudestDba: 80, crestDb: 20 },
  ],
  wind: 'none',
})
const heardFrom = (...distancesM: number[]): Brief => ({
  ...brief,
  places: distancesM.map((distanceM, index) => ({
    id: `p${index}`,
    name: 'place',
    mounted: false,
    noises: [],
    hears: [{ source: 'founder', distanceM, angleDeg: 0 }],
  })) as unknown as Brief['places'],
})
const boomOf = (of: Brief) =>
  candidatePlaces(of, 'founder').find(({ name }) => name === 'boom from above')!.distanceM

describe('the usual places for a microphone', () => {
  it('are the boom, the body and the camera, each with what can be there', () => {
    const cameraM = cameraDistanceM('waist-up', 35, 'APS-C')
    const found = candidatePlaces(heardFrom(0.45), 'founder').map(
      ({ name, distanceM, pattern }) => `${name} ${distanceM.toFixed(2)} ${pattern}`,
    )
    expect(found.sort()).toEqual(
      [
        'boom from above 0.45 0.37',
        'boom from above 0.45 0.5',
        'lapel, under the chin 0.20 1',
        `on the camera ${cameraM.toFixed(2)} 0.37`,
        `on the camera ${cameraM.toFixed(2)} 1`,
      ].sort(),
    )
    expect(candidatePlaces(brief, 'desk')).toEqual([])
    expect(candidatePlaces(brief, 'nobody')).toEqual([])
  })
  it('hear on their axis, as anything there does', () => {
    const [source] = brief.sources
    for (const { distanceM, pattern, overEverythingDb } of candidatePlaces(brief, 'founder'))
      expect(overEverythingDb).toBeCloseTo(
        hearing(brief, source as never, distanceM, 0, pattern).overEverythingDb,
        9,
      )
  })
  it('take the boom as near as the brief lets it: never nearer than 0.3 m, 0.9 m where nothing is said', () => {
    expect(boomOf(brief)).toBe(0.9)
    expect(boomOf(heardFrom(0.6, 0.4))).toBe(0.4)
    expect(boomOf(heardFrom(2))).toBe(0.9)
    expect(boomOf(heardFrom(0.28))).toBe(0.3)
    // what is worn on the body says nothing about the boom
    expect(boomOf(heardFrom(0.24))).toBe(0.9)
  })
  it('of what does not speak are a stand and the camera, for it wears nothing', () => {
    const bell = {
      kind: 'strike',
      id: 'bell',
      name: 'bell',
      levelsDba: { quietest: 80, typical: 94, loudest: 112 },
    }
    const of = Brief.parse({ ...brief, sources: [bell] })
    const names = (found: ReturnType<typeof candidatePlaces>) => [...new Set(found.map(({ name }) => name))]
    expect(names(candidatePlaces(of, 'bell')).sort()).toEqual(['on a stand', 'on the camera'])
    const [nearest] = candidatePlaces(
      {
        ...of,
        places: [{ ...heardFrom(4).places[0]!, hears: [{ source: 'bell', distanceM: 2, angleDeg: 0 }] }],
      },
      'bell',
    )
    expect(nearest).toMatchObject({ name: 'on a stand', distanceM: 2 })
  })
  it('rank by level where nothing else is heard, and say that hiss remains', () => {
    const open = { ...brief, noises: [], room: { ...brief.room, outdoors: true } }
    const found = candidatePlaces(open, 'founder')
    expect(found[0]).toMatchObject({ name: 'lapel, under the chin' })
    expect(found[0]!.why).toBe('loudest here, limited by the hiss of the boxes')
    const far = found.find(({ name, pattern }) => name === 'on the camera' && pattern === 1)!
    // the inverse square of the distances, both on their axis
    const behindDb = 20 * Math.log10(far.distanceM / 0.2)
    expect(far.why).toBe(`${behindDb.toFixed(1)} dB behind the best, limited by the hiss of the boxes`)
  })
  it('count the wind that is left under cover, so that a windy field is not one where nothing else is heard', () => {
    const field = { ...brief, noises: [], room: { ...brief.room, outdoors: true }, wind: 'breeze' as const }
    const lapel = candidatePlaces(field, 'founder').find(({ name }) => name.startsWith('lapel'))!
    // 60 dB(A) at 1 m are 74 at 20 cm; a breeze leaves 34 under fur
    expect(lapel.overEverythingDb).toBeCloseTo(60 + 20 * Math.log10(5) - 34, 9)
    expect(lapel.why).toBe('clearest here, limited by the wind, even under cover')
  })
  it('say what limits each, and by how much it is behind', () => {
    const quiet = { ...brief, noises: [] }
    const [best, second] = candidatePlaces(quiet, 'founder')
    expect(best!.why).toBe("clearest here, limited by the room's own echo")
    const behindDb = (best!.overEverythingDb - second!.overEverythingDb).toFixed(1)
    expect(second!.why).toBe(`${behindDb} dB behind the best, limited by the room's own echo`)
    const outdoors = { ...brief, room: { ...brief.room, outdoors: true } }
    expect(candidatePlaces(outdoors, 'founder')[0]!.why).toBe(
      'clearest here, limited by the noise of the place',
    )
  })
})

describe('noise of the place', () => {
  it('adds up by power', () => {
    expect(placeNoiseDba(brief)).toBeCloseTo(10 * Math.log10(10 ** 5.2 + 10 ** 4), 9)
  })
  it('has a loudest moment and a crest for each, and wind one that gusts', () => {
    const [fans, hammer, wind] = noisesTakenIn({ ...brief, wind: 'breeze' }, 1)
    expect(fans).toEqual({ spectrum: 'ventilation', levelDba: 52, loudestDba: 52, crestDb: 12 })
    expect(hammer).toMatchObject({ levelDba: 40, loudestDba: 80, crestDb: 20 })
    expect(wind).toEqual({ spectrum: 'wind', levelDba: 62, loudestDba: 65, crestDb: 14 })
    // a cardioid takes in a third of it, at the loudest moment too
    expect(noisesTakenIn(brief, 0.5)[1]!.loudestDba).toBeCloseTo(80 - 4.77, 2)
    // from its side
    const aside = { noises: [{ noise: 'hammer', angleDeg: 90 }] }
    expect(noisesTakenIn(brief, 0.5, aside)[1]!.loudestDba).toBeCloseTo(80 - 6.02, 2)
  })
  it('is never quieter at its loudest than on the whole', () => {
    const odd = { ...brief, noises: [{ ...brief.noises[0]!, loudestDba: 40 }] }
    expect(noisesTakenIn(odd, 1)[0]!.loudestDba).toBe(52)
  })
})
