import { describe, expect, it } from 'vitest'
import { levelsOfPatch } from '../levels'
import type { Figure, GearInput, Patch, Shelf } from '../model'
import { scenes, shelf } from '../tests/demo'
import { linePatch } from '../tests/line-patch'
import { cases } from '../tests/form'
import { oddsOf, saferPlan } from './index'

const none: Shelf = new Map()

/** A feed into one converter whose full scale is known to within a tolerance. */
function feed(fullScaleDbu: Figure, peakDbu: number, noiseDbfsA: Figure = -100): Patch {
  const box: GearInput = {
    id: 'box',
    name: 'Box',
    maker: 'Tarnwick',
    kind: 'recorder',
    ports: [{ id: 'in', name: 'in', direction: 'in', connector: 'fixed' }],
    strips: [
      {
        id: 'strip',
        from: { port: 'in' },
        stages: [
          { kind: 'converter-in', fullScaleDbu, noiseDbfsA },
          { kind: 'recording', name: 'track', track: 'track' },
        ],
      },
    ],
  }
  const loudest = peakDbu - 14 + 3.01
  return linePatch(
    [
      {
        kind: 'line',
        id: 'feed',
        name: 'feed',
        levelsDbu: { quietest: loudest - 20, typical: loudest - 10, loudest },
        noiseDbuA: -139,
      },
    ],
    { gear: [box], boxes: [{ id: 'box', gear: 'box', source: 'feed' }], links: [] },
  )
}
/** Share of a normal distribution above a number of deviations (Abramowitz and Stegun 26.2.17, sure to 1e-7). */
function above(deviations: number): number {
  const x = Math.abs(deviations)
  const t = 1 / (1 + 0.2316419 * x)
  const tail =
    (Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  return deviations >= 0 ? tail : 1 - tail
}

const some = cases(scenes, scenes.slice(2, 4))

describe('odds', () => {
  it('agree with the normal distribution where there is a closed form', () => {
    const all = [
      [4, -2],
      [4, 0],
      [2, 3],
      [0, -1],
    ] as const
    for (const [tolerance, over] of cases<typeof all | [4, -2][]>(all, [[4, -2]])) {
      const figure = tolerance ? { value: 10, tolerance, from: 'datasheet' as const } : 10
      const [track] = oddsOf(feed(figure, 10 + over), none, 20_000, 3).tracks
      // peak and full scale are both off: a line feed by 1 dB, the figure by half its tolerance
      const deviation = Math.hypot(1, tolerance / 2)
      expect(track!.clipping).toBeCloseTo(above(-over / deviation), 1.7)
      expect(Math.abs(track!.clipping - above(-over / deviation))).toBeLessThan(0.012)
    }
  })
  it('spread speech-to-noise as the tolerances say', () => {
    const [track] = oddsOf(feed(10, 0, { value: -80, tolerance: 4, from: 'typical' }), none, 20_000, 1).tracks
    const { low, middle, high } = track!.speechToNoiseDb
    const [run] = levelsOfPatch(feed(10, 0, -80), none).runs
    expect(middle).toBeCloseTo(run!.speechToNoiseDb, 0.7)
    // 1.645 deviations to each side, of the feed (1 dB) and the noise (2 dB) together
    expect((high - low) / 2).toBeCloseTo(1.645 * Math.hypot(1, 2), 0.8)
  })
  it('are the same for the same seed, and nearly so for another', { timeout: 60_000 }, () => {
    for (const patch of some) {
      expect(oddsOf(patch, shelf, 60, 1)).toEqual(oddsOf(patch, shelf, 60, 1))
      const [one, other] = [1, 2].map((seed) => oddsOf(patch, shelf, 600, seed))
      for (const [index, { clipping }] of one!.tracks.entries())
        expect(Math.abs(clipping - other!.tracks[index]!.clipping)).toBeLessThan(0.1)
    }
  })
  it('meet the plan where nothing is unsure: the middle is what the levels say', () => {
    for (const patch of some) {
      const levels = levelsOfPatch(patch, shelf)
      for (const track of oddsOf(patch, shelf, 1000, 4).tracks) {
        const mine = levels.runs.filter(
          ({ end, spill }) => end.box === track.box && end.track === track.track && !spill,
        )
        const worst = Math.min(...mine.map(({ speechToNoiseDb }) => speechToNoiseDb))
        expect(Math.abs(track.speechToNoiseDb.middle - worst)).toBeLessThan(2.5)
      }
    }
  })
  it('name the ceiling that is passed most often', () => {
    const tuning = scenes.find(({ name }) => name === 'The tuning')!
    const camera = oddsOf(tuning, shelf, 1000, 1).tracks.find(({ box }) => box === 'camera')!
    expect(camera.clipping).toBeGreaterThan(0.9)
    expect(camera.first!.name).toBe('Camera, first amplifier')
  })
  it('find settings that keep the chance of clipping under a limit', { timeout: 60_000 }, () => {
    const tuning = scenes.find(({ name }) => name === 'The tuning')!
    const safer = saferPlan(tuning, shelf, 0.02, 2000, 1)!
    expect(safer.odds.tracks.every(({ clipping }) => clipping <= 0.02)).toBe(true)
    expect(safer.marginDb).toBeGreaterThanOrEqual(tuning.plan.marginDb)
    expect(saferPlan(tuning, shelf, 0.02, 2000, 1, () => true)).toBeUndefined()
  })
})
