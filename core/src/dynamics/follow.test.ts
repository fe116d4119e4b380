import { describe, expect, it } from 'vitest'
import {
  type Agc,
  agcGainInPauseDb,
  agcLossAfterStrikeDb,
  AgcFollower,
  limiterGainAtPeakDb,
  LimiterFollower,
} from './follow'
import { settledAgcGainDb, settledLimiterGainDb } from './steady'

const rateHz = 48_000
const agc: Agc = {
  target: -20,
  minimumGainDb: -10,
  maximumGainDb: 30,
  attackMs: 20,
  holdMs: 200,
  releaseMs: 800,
}

/** Gain after each stretch of a 1 kHz tone at a level. */
function run(
  follower: { next: (sample: number) => number },
  stretches: [levelDb: number, seconds: number][],
): number[] {
  let frame = 0
  return stretches.map(([levelDb, seconds]) => {
    let gain = 1
    const end = frame + seconds * rateHz
    for (; frame < end; frame++)
      gain = follower.next(10 ** (levelDb / 20) * Math.sin((2 * Math.PI * 1000 * frame) / rateHz))
    return 20 * Math.log10(gain)
  })
}

describe('automatic gain, sample by sample', () => {
  it('settles where the closed form says, at every level', () => {
    for (const levelDb of [-70, -50, -35, -20, -5, 0]) {
      const [gain] = run(new AgcFollower(agc, rateHz), [[levelDb, 6]])
      expect(Math.abs(gain! - settledAgcGainDb(agc, levelDb))).toBeLessThan(0.3)
    }
  })
  it('opens in a pause as the closed form says, at every moment', () => {
    for (const pauseS of [0.1, 0.3, 0.6, 1, 2, 4]) {
      const [, gain] = run(new AgcFollower(agc, rateHz), [
        [-18, 4],
        [-60, pauseS],
      ])
      const seen = agcGainInPauseDb(agc, -18, -60, pauseS)
      expect(Math.abs(gain! - seen)).toBeLessThan(0.3)
    }
  })
  it('is down after a strike for as long as the closed form says', () => {
    const [before, , after] = run(new AgcFollower(agc, rateHz), [
      [-30, 4],
      [-10, 1],
      [-30, 1],
    ])
    const expected = agcLossAfterStrikeDb(agc, -30, -10, 1)
    expect(Math.abs(before! - after! - expected)).toBeLessThan(0.3)
    expect(expected).toBeGreaterThan(3)
  })
})

describe('a limiter, sample by sample', () => {
  const limiter = { threshold: -6, ratio: 20, attackMs: 1, releaseMs: 100 }
  it('settles where the closed form says', () => {
    for (const levelDb of [-20, -6, -3, 0, 12]) {
      const [gain] = run(new LimiterFollower(limiter, rateHz), [[levelDb, 1]])
      expect(Math.abs(gain! - settledLimiterGainDb(limiter, levelDb))).toBeLessThan(0.3)
    }
  })
  it('lacks as much at the peak of a rising tone as the closed form says, fast and slow', () => {
    for (const attackMs of [0.2, 1, 5, 30])
      for (const peakDb of [-4, 0, 6, 20]) {
        const follower = new LimiterFollower({ ...limiter, attackMs }, rateHz)
        const riseMs = 10
        const frames = (riseMs * rateHz) / 1000
        for (let frame = 0; frame <= frames; frame++)
          follower.next(
            10 ** (peakDb / 20) * (frame / frames) * Math.cos(2 * Math.PI * ((frame - frames) / 24)),
          )
        const seen = limiterGainAtPeakDb({ ...limiter, attackMs }, 0, peakDb, riseMs)
        expect(Math.abs(follower.gainDb - seen), `${attackMs} ms, ${peakDb} dB`).toBeLessThan(0.3)
      }
  })
  it('lets go again', () => {
    const [held, free] = run(new LimiterFollower(limiter, rateHz), [
      [6, 0.5],
      [-30, 1],
    ])
    expect(held).toBeLessThan(-10)
    expect(free).toBeGreaterThan(-0.1)
  })
})
