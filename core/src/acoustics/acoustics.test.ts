import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { Brief, Directivity } from '../model'
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

describe('tables over frequency', () => {
  const anglesDeg = Array.from({ length: 37 }, (_, index) => index * 5)
  const level = (a: number) =>
    anglesDeg.map((angle) => Math.max(-60, 20 * Math.log10(Math.abs(acoustics.patternFactor(a, angle)))))
  it('come to the closed forms when every band is of first order', () => {
    const table = { anglesDeg, bands: [250, 1000, 4000].map((hz) => ({ hz, db: level(0.37) })) }
    for (const angle of [0, 30, 45, 60, 90, 180])
      expect(acoustics.patternDb(table, angle)).toBeCloseTo(acoustics.patternDb(0.37, angle), 1)
    for (const spectrum of ['even', 'traffic', 'voice'] as const)
      expect(
        Math.abs(
          10 *
            Math.log10(
              acoustics.randomEnergyEfficiency(table, spectrum) / acoustics.randomEnergyEfficiency(0.37),
            ),
        ),
      ).toBeLessThan(0.05)
  })
  it('take in more of what rumbles than of what hisses, when they narrow with frequency', () => {
    const tube = {
      anglesDeg,
      bands: [
        { hz: 250, db: level(0.5) },
        { hz: 8000, db: anglesDeg.map((angle) => -Math.min(40, angle)) },
      ],
    }
    const takesIn = (spectrum: 'even' | 'ventilation' | 'wind') =>
      acoustics.randomEnergyEfficiency(tube, spectrum)
    expect(takesIn('even')).toBeLessThan(takesIn('ventilation'))
    expect(takesIn('ventilation')).toBeLessThan(takesIn('wind'))
    expect(takesIn('wind')).toBeLessThan(1 / 3)
    expect(acoustics.patternName(tube)).toBe('interference tube')
  })
  it('weigh bands that come to one, the voice most of all in the middle of its range', () => {
    for (const weights of [acoustics.voiceWeights, ...Object.values(acoustics.noiseWeights)])
      expect(weights.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12)
    const most = acoustics.voiceWeights.reduce((one, other) => (other.share > one.share ? other : one))
    expect(most.hz).toBeGreaterThan(300)
    expect(most.hz).toBeLessThan(1000)
  })
  it('are refused when angles or levels are missing', () => {
    const refused = (table: object) => Directivity.safeParse(table).success
    const bands = [{ hz: 1000, db: [0, -10] }]
    expect(refused({ anglesDeg: [0, 180], bands })).toBe(true)
    expect(refused({ anglesDeg: [0, 90], bands })).toBe(false)
    expect(refused({ anglesDeg: [0, 90, 180], bands })).toBe(false)
    expect(refused({ anglesDeg: [0, 180], bands: [...bands, ...bands] })).toBe(false)
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
  it('is filled by the power of the voice over the absorption', () => {
    // 161 m3 with 1 s absorb as 25.921 m2; 60 dB at 1 m from a talking head (DI 3 dB) is 68 dB of power
    const hall = { volumeM3: 161, reverberationS: 1, outdoors: false }
    expect(acoustics.diffuseLevelDb(60, hall)).toBeCloseTo(60 + 11 - 3 + 10 * Math.log10(4 / 25.921), 9)
    expect(acoustics.diffuseLevelDb(60, { ...hall, outdoors: true })).toBe(-Infinity)
  })
  it('falls 6 dB for every doubling of distance', () => {
    expect(acoustics.directLevelDb(60, 1) - acoustics.directLevelDb(60, 2)).toBeCloseTo(6.02, 2)
  })
})

describe('noise at a place', () => {
  const brief = Brief.parse({
    sources: [
      { kind: 'speech', id: 'ringer', name: 'ringer', levelsDba: { quietest: 54, typical: 60, loudest: 72 } },
    ],
    picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
    room: { name: 'yard', outdoors: true, volumeM3: 100, reverberationS: 0.5 },
    noises: [{ id: 'road', name: 'road', levelDba: 60, spectrum: 'traffic' }],
    wind: 'gusts',
  })
  const from = (angleDeg: number) => ({ noises: [{ noise: 'road', angleDeg }] })
  it('is taken in all round by the sphere, from one side by the pattern there', () => {
    expect(acoustics.noiseTakenInDba(brief, 0.5)).toBeCloseTo(60 - 4.77, 2)
    expect(acoustics.noiseTakenInDba(brief, 0.5, from(0))).toBeCloseTo(60, 9)
    expect(acoustics.noiseTakenInDba(brief, 0.5, from(90))).toBeCloseTo(60 - 6.02, 2)
    expect(acoustics.noiseTakenInDba(brief, 0.5, from(180))).toBeCloseTo(20, 9)
  })
  it('has wind of its own, less with every cover, and none in still air', () => {
    const levels = (['none', 'foam', 'fur', 'basket'] as const).map((cover) =>
      acoustics.windNoiseDba(brief, cover),
    )
    expect(levels).toEqual([...levels].sort((one, other) => other - one))
    expect(acoustics.windNoiseDba({ wind: 'none' })).toBe(-Infinity)
    expect(acoustics.windNoiseDba({ wind: 'breeze' }, 'foam')).toBeLessThan(levels[1]!)
  })
})

describe('framing', () => {
  it('steps back for a longer lens, in proportion', () => {
    const near = acoustics.cameraDistanceM('waist-up', 35, 'APS-C')
    expect(near).toBeCloseTo(35 / 13.2, 9)
    expect(acoustics.cameraDistanceM('waist-up', 70, 'APS-C')).toBeCloseTo(2 * near, 9)
    expect(acoustics.equivalentFocalLengthMm(35, 'APS-C')).toBeCloseTo(53.5, 1)
    expect(acoustics.focalLengthForMm('waist-up', near, 'APS-C')).toBeCloseTo(35, 9)
    expect(acoustics.focalLengthForMm('wide', 3.5, 'full frame')).toBeCloseTo(20.25, 9)
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
    // room and noise add up by power, and a microphone that hears less from the side hears less of its source there
    const inside = acoustics.hearing(brief, source, 1, 0, 0.5)
    const other = 10 ** (inside.roomDba / 10) + 10 ** (inside.noiseDba / 10)
    expect(inside.overEverythingDb).toBeCloseTo(inside.directDba - 10 * Math.log10(other), 9)
    expect(acoustics.hearing(brief, source, 1, 90, 0.5).directDba).toBeCloseTo(inside.directDba - 6.02, 1)
  })
})
