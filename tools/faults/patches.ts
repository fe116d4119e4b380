import fc from 'fast-check'
import { balance } from '@iron-hush/core/balance'
import { levelsOfPatch } from '@iron-hush/core/levels'
import { shelf } from '../../core/src/tests/demo'
import { nanIn, oddPatch } from '../../core/src/tests/odd-patches'

/** Patches with odd figures: each is answered in numbers, and in time. */
export function oddPatches(count: number, seed: number) {
  const failures: string[] = []
  let slowestS = 0
  for (const patch of fc.sample(oddPatch, { numRuns: count, seed })) {
    const from = performance.now()
    try {
      const nan = nanIn(levelsOfPatch(patch, shelf)) ?? nanIn(balance(patch, shelf))
      if (nan) failures.push(`no number at ${nan} in ${patch.name}`)
    } catch (error) {
      failures.push(`${patch.name}: ${String(error)}`)
    }
    slowestS = Math.max(slowestS, (performance.now() - from) / 1000)
  }
  return { failures, slowestS }
}
