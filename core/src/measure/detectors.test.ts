import { describe, expect, it } from 'vitest'
import { judged } from '../tests/detecting'
import { clean, faulty } from '../tests/known-clips'

/**
 * A short form of `npm run detectors`: clips made with a fault, each kind at the strength in the middle, and clean ones. What
 * they hold is known from how they were made.
 */
describe('detectors', () => {
  const seed = 4
  it('find what clips were made with', () => {
    const middle = faulty.filter((_, index) => index % 3 === 1)
    const verdicts = middle.map((make) => judged(make(seed)))
    expect(verdicts.length).toBeGreaterThan(10)
    expect(verdicts.filter(({ found }) => !found).map(({ clip }) => clip.kind)).toEqual([])
  })
  it('find nothing in clean ones', () => {
    const verdicts = clean.map((make) => judged(make(seed)))
    expect(verdicts.length).toBeGreaterThan(12)
    expect(verdicts.flatMap(({ clip, alarms }) => alarms.map((alarm) => `${clip.kind}: ${alarm}`))).toEqual(
      [],
    )
  })
  it('say how much, where and what shape', () => {
    const chosen = faulty
      .map((make) => make(seed))
      .filter(({ kind, strength }) => exact.has(`${kind}, ${strength}`))
    expect(chosen).toHaveLength(exact.size)
    expect(chosen.flatMap((clip) => judged(clip).off.map((off) => `${clip.kind}: ${off}`))).toEqual([])
  })
})

/** Of these, level, shape, time and the like lie within the tolerances asked for. */
const exact = new Set([
  'flat below full scale, 5 dB',
  'bent, 12 dB',
  'sagging, 8 dB',
  'hum, 20 dB under speech',
  'wind, peaks 12 dB over speech',
  'pop, 12 dB over speech',
  'dropout, 20 ms',
  'click, 0 dB re speech',
  'pumping, release 1.5 s',
  'channels delayed, 2 ms',
  'channels opposite, stereo',
])
