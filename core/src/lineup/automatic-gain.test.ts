import { describe, expect, it } from 'vitest'
import { testSignal } from '../signals'
import { cases } from '../tests/form'
import { automaticGainIn } from './automatic-gain'

const rateHz = 48_000
const bursts = testSignal({ kind: 'bursts', levelDbfs: -10 }, rateHz)
/** Automatic gain of another make than the renderer's: it follows the peak, and turns by steps in dB. */
function turned(
  samples: Float32Array,
  targetDb: number,
  mostDb: number,
  times: Record<'attackS' | 'holdS' | 'releaseS', number>,
) {
  let gainDb = mostDb
  let peak = 0
  let held = 0
  return samples.map((sample) => {
    peak = Math.max(Math.abs(sample), peak * Math.exp(-1 / (0.004 * rateHz)))
    const wanted = Math.min(mostDb, targetDb - 20 * Math.log10(Math.max(1e-6, peak)))
    if (wanted < gainDb + 0.5) held = times.holdS * rateHz
    if (wanted < gainDb) gainDb += (wanted - gainDb) / (times.attackS * rateHz)
    else if (held > 0) held--
    else gainDb += (wanted - gainDb) / (times.releaseS * rateHz)
    return sample * 10 ** (gainDb / 20)
  })
}

describe('automatic gain in the bursts', () => {
  it('is read off with its target and times, whatever they are', () => {
    for (const attackS of cases([0.02, 0.06], [0.06]))
      for (const holdS of cases([0.2, 0.6], [0.2]))
        for (const releaseS of [0.5, 1.6]) {
          const clip = turned(bursts, -22, 12, { attackS, holdS, releaseS })
          const found = automaticGainIn(clip, rateHz)!
          expect(found.targetDbfs).toBeCloseTo(-22, 0)
          expect(found.gainFallsDb).toBeCloseTo(24, 0)
          expect(found.releaseMs! / 1000 / releaseS).toBeGreaterThan(0.8)
          expect(found.releaseMs! / 1000 / releaseS).toBeLessThan(1.25)
          expect(found.holdMs! / 1000).toBeGreaterThan(holdS - 0.08)
          expect(found.holdMs! / 1000).toBeLessThan(holdS + 0.2)
          expect(found.attackMs!).toBeGreaterThan(1000 * attackS * 0.5)
          expect(found.attackMs!).toBeLessThan(1000 * attackS * 1.8 + 10)
        }
  })
  it('is not seen where the gain stays', () => {
    expect(automaticGainIn(bursts, rateHz)).toMatchObject({ targetDbfs: null, releaseMs: null })
  })
  it('is not sought where there are no bursts', () => {
    expect(
      automaticGainIn(testSignal({ kind: 'pink noise', levelDbfs: -10 }, rateHz), rateHz),
    ).toBeUndefined()
  })
})
