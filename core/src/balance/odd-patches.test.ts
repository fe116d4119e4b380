import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { wiringFindings, wiringOf } from '../circuit'
import { levelsOfPatch } from '../levels'
import { scenes, shelf } from '../tests/demo'
import { nanIn, oddPatch } from '../tests/odd-patches'
import { cases } from '../tests/form'
import { balance } from './balance'

/** More than is allowed for one balance, with what it takes to come to an end when that is done. */
const mostWork = 360_000

describe('whatever the schemas let in', { timeout: 300_000 }, () => {
  it('is answered in figures that are numbers, and Balance comes to an end', () => {
    fc.assert(
      fc.property(oddPatch, (patch) => {
        expect(nanIn(wiringFindings(wiringOf(patch, shelf))), 'wiring').toBe(undefined)
        expect(nanIn(levelsOfPatch(patch, shelf)), 'levels').toBe(undefined)
        const found = balance(patch, shelf)!
        expect(nanIn(found), 'balance').toBe(undefined)
        expect(found.evaluations).toBeLessThan(mostWork)
      }),
      { numRuns: cases(8, 4) },
    )
  })
  it('also where peaks stand 30 dB over the voice', () => {
    for (const patch of cases(scenes, scenes.slice(0, 2))) {
      const sources = patch.brief.sources.map((source) => ({ ...source, crestDb: 30 }))
      const found = balance({ ...patch, brief: { ...patch.brief, sources } }, shelf)!
      expect(found.evaluations, patch.name).toBeLessThan(mostWork)
      expect(nanIn(found), patch.name).toBe(undefined)
    }
  })
})
