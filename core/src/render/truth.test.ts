import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { balanced } from '../tests/balanced'
import { scene, shelf } from '../tests/demo'
import { apart, type Heard, heardBeside } from '../tests/on-samples'
import { anyChain, automaticChain } from '../tests/random-chains'
import { cases, isLong } from '../tests/form'

/** The short form of `npm run truth`; the limits are the same. */
function expectHeard(heard: readonly Heard[]): void {
  expect(heard.length).toBeGreaterThan(0)
  for (const each of heard) {
    const { kind, limited, run, predicted, rendered } = each
    if (kind === 'ceiling' && limited) continue
    expect(apart(each), `${kind} of ${run}: ${predicted} and ${rendered}`).toBeLessThan(limited ? 4 : 0.3)
  }
}

describe('level, noise in a pause, peak and ceilings are those of the samples', () => {
  it.runIf(isLong)('in a loud place under automatic gain, and on a phone', { timeout: 120_000 }, () => {
    for (const file of ['2-the-pour', '6-the-apprentice-by-phone'])
      expectHeard(heardBeside(scene(file), shelf, 2))
  })
  it('in chains at random: mixes, two ways, ducks, limiters, loud places', { timeout: 240_000 }, () => {
    for (const patch of fc.sample(anyChain, { numRuns: cases(3, 1), seed: 1 }))
      expectHeard(heardBeside(patch, new Map(), 2))
  })
  it.runIf(isLong)('before Balance and after it, where automatic gain acts', { timeout: 240_000 }, () => {
    for (const patch of fc.sample(automaticChain, { numRuns: 1, seed: 4 })) {
      const { before, after, asGood, worstDb } = balanced(patch, new Map(), 2)
      expectHeard(before)
      expectHeard(after)
      if (asGood && worstDb) expect(worstDb.after).toBeGreaterThan(worstDb.before - 0.3)
    }
  })
})
