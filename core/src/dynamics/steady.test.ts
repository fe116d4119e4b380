import { expect, it } from 'vitest'
import fc from 'fast-check'
import { settledAgcGainDb, settledLimiterGainDb } from './index'

const level = fc.double({ min: -120, max: 20, noNaN: true })

it('brings every level within reach to the target and never leaves its limits', () => {
  const agc = { target: -24, minimumGainDb: 0, maximumGainDb: 36 }
  fc.assert(
    fc.property(level, (db) => {
      const gainDb = settledAgcGainDb(agc, db)
      expect(gainDb).toBeGreaterThanOrEqual(0)
      expect(gainDb).toBeLessThanOrEqual(36)
      if (db <= -24 && db >= -60) expect(db + gainDb).toBeCloseTo(-24, 9)
    }),
  )
})

it('lets a limiter pass what lies under the threshold and a share of what lies over it', () => {
  expect(settledLimiterGainDb({ threshold: -6, ratio: 20 }, -7)).toBeCloseTo(0, 12)
  expect(-1 + settledLimiterGainDb({ threshold: -6, ratio: 5 }, -1)).toBeCloseTo(-5, 9)
  fc.assert(
    fc.property(level, level, (one, other) => {
      const out = (db: number) => db + settledLimiterGainDb({ threshold: -10, ratio: 8 }, db)
      if (one < other) expect(out(one)).toBeLessThanOrEqual(out(other) + 1e-9)
    }),
  )
})
