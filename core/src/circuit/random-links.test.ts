import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { expectAgrees } from '../tests/expect-circuit'
import { cases } from '../tests/form'
import { randomLink } from '../tests/random-links'
import { signalsOf, variantsOf } from './index'

/** The two spread the leakage of a floating island over other nodes: 0.01 dB at most. */
const leaky = 1e-3
const count = cases(300, 20)

describe('links made at random from the shelf', () => {
  it(`agree with modified nodal analysis, ${count} of them, at DC and in sound`, { timeout: 120_000 }, () => {
    let solved = 0
    fc.assert(
      fc.property(randomLink, (link) => {
        if (solved >= count) return
        const found = variantsOf(link)
        if ('misfit' in found) return
        for (const { netlist } of found.variants) {
          solved++
          expectAgrees(netlist, 0, undefined, leaky)
          for (const signal of signalsOf(netlist))
            for (const frequencyHz of [100, 1000, 10_000]) expectAgrees(netlist, frequencyHz, signal, leaky)
        }
      }),
      { numRuns: 6000 },
    )
    expect(solved).toBeGreaterThanOrEqual(count)
  })
})
