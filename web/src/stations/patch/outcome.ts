import { atLeast, type Finding, findingsOf, levelsOfPatch, severities } from '@iron-hush/core/levels'
import { applyEdits, checkPatch, type Edit, type Patch, type Shelf } from '@iron-hush/core/model'

/** What a change would bring: the worst that would be new, or that nothing would. */
export interface Outcome {
  brings: string
  severity: Finding['severity'] | 'none'
}

/** Outcomes without trouble first, then by how bad. */
export const byTrouble = (one: Outcome, other: Outcome): number => rankOf(one) - rankOf(other)
const rankOf = ({ severity }: Outcome): number => (severity === 'none' ? -1 : severities.indexOf(severity))

/** What would be new or worse after a change of the patch, in one sentence; else what it would take away. */
export function outcomeOf(patch: Patch, edits: Edit[], shelf: Shelf, before = bad(patch, shelf)): Outcome {
  try {
    const next = applyEdits(patch, edits, shelf)
    const after = bad(next, shelf)
    const [worst] = missing(after, before)
    if (worst) return { brings: worst.what, severity: worst.severity }
    const [cured] = missing(before, after)
    return cured
      ? { brings: `cures: ${cured.what}`, severity: 'none' }
      : { brings: 'brings nothing new', severity: 'none' }
  } catch (error) {
    return { brings: error instanceof Error ? error.message : String(error), severity: 'dead' }
  }
}

/** What is at least degraded now. Compute it once for a list of outcomes. */
export function bad(patch: Patch, shelf: Shelf): Finding[] {
  if (checkPatch(patch, shelf).length) return []
  return findingsOf(levelsOfPatch(patch, shelf), {
    plan: patch.plan,
    wantedSpeechToNoiseDb: patch.brief.wantedSpeechToNoiseDb,
  }).filter(({ severity }) => atLeast(severity, 'degraded'))
}

/** Findings of the first list that the second does not have about the same place, or not as badly. */
const missing = (one: Finding[], other: Finding[]): Finding[] =>
  one.filter(
    (finding) =>
      !other.some(
        (each) =>
          each.run === finding.run &&
          each.about === finding.about &&
          atLeast(each.severity, finding.severity),
      ),
  )
