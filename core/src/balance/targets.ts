import { gearOf, type Patch, PeakTarget, type Shelf, shelfFor } from '../model'
import { balance, type Change } from './balance'
import type { Score } from './objective'

/** The present chain balanced for one peak target, with its score. */
export interface TargetSettings {
  target: PeakTarget
  fits: boolean
  score: Score
  changes: Pick<Change, 'part' | 'control' | 'from' | 'to'>[]
}

/**
 * The current chain balanced for each peak target that its recordings can have, those that keep the most in hand first:
 * what a school of levels costs. Undefined when cancelled.
 */
export function targetsOf(
  patch: Patch,
  shelf: Shelf,
  cancelled: () => boolean = () => false,
): TargetSettings[] | undefined {
  const found: TargetSettings[] = []
  for (const target of PeakTarget.options.filter((each) => targetApplies(each, patch, shelf))) {
    const balanced = balance({ ...patch, plan: { ...patch.plan, peakTarget: target } }, shelf, cancelled)
    if (!balanced) return undefined
    const { fits, after, changes } = balanced
    found.push({ target, fits, score: after, changes })
  }
  return found
}

/** Whether a target differs from the others here: it may depend on meter marks or a floating-point track. */
export function targetApplies(target: PeakTarget, patch: Patch, shelf: Shelf): boolean {
  if (target === patch.plan.peakTarget) return true
  const all = shelfFor(patch, shelf)
  const things = patch.boxes.map(({ gear }) => gearOf(all, gear))
  if (target === 'under the mark') return things.some(({ meter }) => meter !== undefined)
  if (target !== 'float') return true
  return things.some(({ strips }) =>
    strips.some(({ stages }) => stages.some((stage) => stage.kind === 'recording' && stage.floating)),
  )
}
