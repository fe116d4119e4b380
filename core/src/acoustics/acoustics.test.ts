import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { Brief } from '../model'
import * as acoustics from './index'

describe('patterns', () => {
  it('has the published random-energy efficiencies', () => {
    expect(acoustics.randomEnergyEfficiency(1)).toBeCloseTo(1, 12)
    expect(acoustics.randomEnergyEfficiency(0.5)).toBeCloseTo(1 / 3, 12)
    expect(acoustics.randomEnergyEfficiency(0.25)).toBeCloseTo(1 / 4, 12)
    expect(acoustics.randomEnergyEfficiency(0)).toBeCloseTo(1 / 3, 12)
  })
  it('agrees with a fine integral over the sphere', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (a) => {
        const steps = 2000
        let sum = 0
        for (let step = 0; step < steps; step++) {
          const angleDeg = ((step + 0.5) * 180) / steps
          const ring = (Math.sin((angleDeg * Math.PI) / 180) * Math.PI) / steps / 2
          sum += acoustics.patternFactor(a, angleDeg) ** 2 * ring
        }
        expect(acoustics.randomEnergyEfficiency(a)).toBeCloseTo(sum, 5)
      }),
    )
  })
  it('nulls a cardioid behind and a hypercardioid at 110 degrees', () => {
    expect(acoustics.patternDb(0.5, 180)).toBe(-40)
    expect(acoustics.patternDb(0.25, 109.47)).toBeLessThan(-39)
    expect(acoustics.patternName(0.36)).toBe('supercardioid')
  })
})

describe('rooms', () => {
  const room = { volumeM3: 200, reverberationS: 0.8, outdoors: false }
  it('makes direct equal diffuse at the critical distance', () => {
    const distanceM = acoustics.criticalDistanceM(room)
    expect(acoustics.directLevelDb(60, distanceM)).toBeCloseTo(acoustics.diffuseLevelDb(60, room), 9)
  })
  it('gives the textbook critical distance 0.057 sqrt(V / T) for a source without direction', () => {
    expect(acoustics.criticalDistanceM(room, 0)).toBeCloseTo(0.057 * Math.sqrt(200 / 0.8), 1)
  })
  it('falls 6 dB for every doubling of distance', () => {
    expect(acoustics.directLevelDb(60, 1) - acoustics.directLevelDb(60, 2)).toBeCloseTo(6.02, 2)
  })
})

describe('framing', () => {
  it('steps back for a longer lens, in proportion', () => {
    const near = acoustics.cameraDistanceM('waist-up', 35, 'APS-C')
    expect(near).toBeCloseTo(35 / 13.2, 9)
    expect(acoustics.cameraDistanceM('waist-up', 70, 'APS-C')).toBeCloseTo(2 * near, 9)
    expect(acoustics.equivalentFocalLengthMm(35, 'APS-C')).toBeCloseTo(53.5, 1)
  })
})

describe('places', () => {
  const brief = Brief.parse({
    sources: [
      {
        kind: 'speech',
        id: 'founder',
        name: 'founder',
        levelsDba: { quietest: 54, typical: 60, loudest: 72 },
      },
    ],
    places: [{ id: 'boom', name: 'boom', hears: [{ source: 'founder', distanceM: 0.45 }] }],
    picture: { framing: 'waist-up', focalLengthMm: 35, sensor: 'APS-C' },
    room: { name: 'workshop', volumeM3: 200, reverberationS: 0.8 },
    noises: [{ id: 'fans', name: 'fans', levelDba: 52 }],
  })
  it('ranks near before far and says why', () => {
    const ranked = acoustics.candidatePlaces(brief, 'founder')
    const db = ranked.map(({ overEverythingDb }) => overEverythingDb)
    expect(db).toEqual([...db].sort((one, other) => other - one))
    expect(ranked.at(-1)?.name).toBe('on the camera')
    expect(ranked[0]!.overEverythingDb - ranked.at(-1)!.overEverythingDb).toBeGreaterThan(10)
    expect(ranked.at(-1)!.why).toMatch(/behind the best/)
  })
  it('hears no echo outdoors and nothing at all of a silent place', () => {
    const outdoors = { ...brief, room: { ...brief.room, outdoors: true }, noises: [] }
    const source = brief.sources[0] as Exclude<(typeof brief.sources)[0], { kind: 'line' }>
    expect(acoustics.hearing(outdoors, source, 1, 0, 1).overEverythingDb).toBe(Infinity)
  })
})
