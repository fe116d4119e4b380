import { describe, expect, it } from 'vitest'
import { AgcFollower } from '../dynamics'
import { testSignal } from '../signals'
import { cases } from '../tests/form'
import { automaticGainIn } from './automatic-gain'
import { timesOfModel } from './automatic-model'

describe('the times of the model', () => {
  it('are those with which it was turned, though they show otherwise from outside', () => {
    const rateHz = 48_000
    const bursts = testSignal({ kind: 'bursts', levelDbfs: -6 }, rateHz)
    const all = [
      [60, 900, 2600],
      [30, 300, 900],
      [120, 500, 1800],
    ] as const
    for (const [attackMs, holdMs, releaseMs] of cases(all.slice(0), all.slice(1, 2))) {
      const agc = { target: -22, minimumGainDb: -30, maximumGainDb: 24, attackMs, holdMs, releaseMs }
      const follower = new AgcFollower(agc, rateHz)
      const seen = automaticGainIn(
        bursts.map((sample) => sample * follower.next(sample)),
        rateHz,
      )!
      const found = timesOfModel(seen, { ...agc, attackMs: 40, holdMs: 300, releaseMs: 1500 }, -6)!
      expect(found.releaseMs / releaseMs).toBeGreaterThan(0.75)
      expect(found.releaseMs / releaseMs).toBeLessThan(1.25)
      expect(Math.abs(found.holdMs - holdMs)).toBeLessThan(120)
      expect(found.attackMs / attackMs).toBeGreaterThan(0.6)
      expect(found.attackMs / attackMs).toBeLessThan(1.6)
    }
  })
})
