import { describe, expect, it } from 'vitest'
import { judged } from '../tests/detecting'
import { clean, plain } from '../tests/known-clips'
import { cases } from '../tests/form'

/**
 * A short form of `npm run detectors`: a clip of every kind of fault at one strength, and clean ones. What they hold is known
 * from how they were made.
 */
describe('detectors', () => {
  const seed = 4
  const some = <T>(all: readonly T[]) => all.filter((_, index) => index % cases(1, 6) === 0)
  it('find what clips were made with, and say how much, where and of what shape', async () => {
    const chosen = await Promise.all(some(plain).map((make) => judged(make(seed))))
    expect(chosen.length).toBeGreaterThan(cases(9, 1))
    expect(chosen.filter(({ found }) => !found).map(({ clip }) => clip.kind)).toEqual([])
    expect(chosen.flatMap(({ clip, off }) => off.map((each) => `${clip.kind}: ${each}`))).toEqual([])
  })
  it('find nothing in clean ones', async () => {
    const verdicts = await Promise.all(some(clean).map((make) => judged(make(seed))))
    expect(verdicts.length).toBeGreaterThan(cases(12, 2))
    expect(verdicts.flatMap(({ clip, alarms }) => alarms.map((alarm) => `${clip.kind}: ${alarm}`))).toEqual(
      [],
    )
  })
})
