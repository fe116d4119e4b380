import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { cases } from '../tests/form'
import { lawOf, type LawPrior, nextPosition } from './law'
import { risingFit } from './monotone'

const count = 25
const places = Array.from({ length: count }, (_, position) => position)
const straight: LawPrior = {
  typicalDb: places.map((position) => -26 + 1.6 * position),
  offsetDb: 4,
  bendDb: 5,
}
/** Laws as real controls have them, none of the family that the fit believes in. */
const families: ((share: number) => number)[] = [
  (share) => -28 + 42 / (1 + Math.exp(-9 * (share - 0.45))),
  (share) => -30 + 40 * Math.sqrt(share),
  (share) => -20 + 30 * share ** 1.6,
  (share) => -24 + 38 * share + 2.5 * Math.sin(2 * Math.PI * share),
  (share) => -26 + 12 * Math.min(1, share * 4) + 26 * Math.max(0, share - 0.25),
]

describe('the law of a control', () => {
  it('lies within the width that it states, for laws of other families', () => {
    const next = normal(random(3))
    let inside = 0
    let all = 0
    for (const family of families)
      for (let trial = 0; trial < cases(20, 6); trial++) {
        const truth = places.map((position) => family(position / (count - 1)))
        const asked = [2, 6 + (trial % 4), 13, 18 + (trial % 3), 24]
        const readings = asked.map((position) => ({
          position,
          gainDb: truth[position]! + 0.4 * next(),
          toleranceDb: 0.5,
        }))
        const { points } = lawOf(straight, readings)
        points.forEach(({ lowDb, highDb }, position) => {
          all++
          if (truth[position]! >= lowDb - 0.5 && truth[position]! <= highDb + 0.5) inside++
        })
      }
    expect(inside / all).toBeGreaterThan(0.93)
  })
  it('never falls, and is narrow where it was read', () => {
    const { points } = lawOf(straight, [
      { position: 6, gainDb: -19, toleranceDb: 0.5 },
      { position: 12, gainDb: -4, toleranceDb: 0.5 },
    ])
    for (let position = 1; position < count; position++)
      expect(points[position]!.gainDb).toBeGreaterThanOrEqual(points[position - 1]!.gainDb - 1e-9)
    expect(points[12]!.gainDb).toBeCloseTo(-4, 0)
    expect(points[12]!.toleranceDb).toBeLessThan(1.3)
    expect(points[24]!.toleranceDb).toBeGreaterThan(4)
    expect(nextPosition({ points, outliers: [], contradictions: [] }, { from: 0, to: 24 }, 1.5)).toBe(24)
  })
  it('names the reading that the others contradict, and leaves it out', () => {
    const truth = places.map((position) => families[0]!(position / (count - 1)))
    const readings = [2, 7, 12, 17, 22].map((position) => ({
      position,
      gainDb: truth[position]! - (position === 17 ? 20 : 0),
      toleranceDb: 0.5,
    }))
    const { outliers, points } = lawOf(straight, readings)
    expect(outliers.map(({ reading }) => reading)).toEqual([3])
    expect(outliers[0]!.offDb).toBeLessThan(-12)
    expect(Math.abs(points[17]!.gainDb - truth[17]!)).toBeLessThan(4)
  })
  it('says of two readings that fall that they cannot both be right', () => {
    const { contradictions, outliers } = lawOf(straight, [
      { position: 5, gainDb: -8, toleranceDb: 0.5 },
      { position: 15, gainDb: -16, toleranceDb: 0.5 },
    ])
    expect(contradictions).toEqual([[0, 1]])
    expect(outliers).toEqual([])
  })
  it('takes named positions one by one', () => {
    const { points } = lawOf({ typicalDb: [-20, 0, 20], offsetDb: 1, bendDb: 4, separate: true }, [
      { position: 0, gainDb: -14, toleranceDb: 0.3 },
    ])
    expect(points[0]!.gainDb).toBeCloseTo(-14, 0)
    expect(points[1]!.gainDb).toBeLessThan(1.5)
  })
  it('is worked out for ten thousand positions too', () => {
    const typicalDb = Array.from({ length: 10_000 }, (_, position) => position / 200)
    const { points } = lawOf({ typicalDb, offsetDb: 3, bendDb: 3 }, [
      { position: 4321, gainDb: 30, toleranceDb: 0.2 },
    ])
    expect(points).toHaveLength(10_000)
    expect(points[4321]!.gainDb).toBeCloseTo(30, 0)
  })
})

describe('the rising fit', () => {
  it('is the nearest of all rows that rise: no small change of it comes nearer', () => {
    const next = random(5)
    for (let trial = 0; trial < 50; trial++) {
      const values = Array.from({ length: 6 }, () => Math.round(8 * next()))
      const fit = risingFit(values)
      const off = (row: ArrayLike<number>) =>
        values.reduce((sum, each, index) => sum + (each - row[index]!) ** 2, 0)
      // by exhaustive search over a grid of halves
      let least = Infinity
      const search = (row: number[]): void => {
        if (row.length === values.length) {
          least = Math.min(least, off(row))
          return
        }
        for (let each = row.at(-1) ?? 0; each <= 8; each += 1) search([...row, each])
      }
      search([])
      expect(off(fit)).toBeLessThanOrEqual(least + 1e-9)
      for (let index = 1; index < fit.length; index++)
        expect(fit[index]!).toBeGreaterThanOrEqual(fit[index - 1]!)
    }
  })
})
