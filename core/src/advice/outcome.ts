import { type LinkReport, wiringFindings, wiringOf } from '../circuit'
import { applyEdits, type Edit } from '../edits'
import {
  atLeast,
  bySeverity,
  type CircuitFinding,
  type LevelFinding,
  severities,
  type Severity,
} from '../findings'
import { findingsOf, levelsOfPatch } from '../levels'
import { checkPatch, type Patch, Refusal, type Shelf, type Source } from '../model'

/** Something that is at least degraded, in a link or on a run. */
export type Trouble = CircuitFinding | LevelFinding

/** Outcome of a change: the worst new finding, what it would cure, or the resulting ratio. */
export type Outcome =
  | { kind: 'brings' | 'cures'; finding: Trouble }
  /** Worst ratio to noise of all recordings, dB; undefined where nothing is recorded. */
  | { kind: 'clearness'; beforeDb?: number; afterDb?: number; sources: readonly Source[] }
  | { kind: 'refused'; sentence: string }

/** Severity of a change's outcome. */
export const severityOf = (outcome: Outcome): Severity | 'none' =>
  outcome.kind === 'brings' ? outcome.finding.severity : outcome.kind === 'refused' ? 'dead' : 'none'

/** Outcomes without trouble first, then by how bad. */
export const byTrouble = (one: Outcome, other: Outcome): number => rankOf(one) - rankOf(other)
function rankOf(outcome: Outcome): number {
  const severity = severityOf(outcome)
  return severity === 'none' ? -1 : severities.indexOf(severity)
}

/** State of a patch: which sources arrive, its findings, and the worst ratio to noise of its recordings, dB. */
export interface Standing {
  sources: readonly Source[]
  troubles: Trouble[]
  worstDb?: number
}

/** Circuits that were solved: most offers change one link of many. */
const solved = new Map<string, LinkReport>()
const mostSolved = 2000

/** The present state of a patch. Compute it once for a list of outcomes. */
export function standingOf(patch: Patch, shelf: Shelf): Standing {
  const { sources } = patch.brief
  if (checkPatch(patch, shelf).length) return { sources, troubles: [] }
  if (solved.size > mostSolved) solved.clear()
  const wiring = wiringOf(patch, shelf, (key, solve) => {
    const report = solved.get(key) ?? solve()
    solved.set(key, report)
    return report
  })
  const levels = levelsOfPatch(patch, shelf)
  const ratios = levels.runs.flatMap(({ end, stop, spill, speechToNoiseDb }) =>
    end.kind === 'recording' && !stop && !spill ? [speechToNoiseDb] : [],
  )
  // the cause in the wiring comes before what follows from it in the levels
  const troubles: Trouble[] = [
    ...wiringFindings(wiring),
    ...findingsOf(levels, {
      plan: patch.plan,
      wantedSpeechToNoiseDb: patch.brief.wantedSpeechToNoiseDb,
      patch,
    }),
  ]
  return {
    sources,
    troubles: troubles.filter(({ severity }) => atLeast(severity, 'degraded')).sort(bySeverity),
    worstDb: ratios.length ? Math.min(...ratios) : undefined,
  }
}

/**
 * What would be new or worse after a change of the patch; else what it would take away, or what the clearness of the
 * recordings comes to. The wiring and the levels of the result are computed for it.
 */
export function outcomeOf(
  patch: Patch,
  edits: Edit[],
  shelf: Shelf,
  before = standingOf(patch, shelf),
): Outcome {
  let changed: Patch
  try {
    changed = applyEdits(patch, edits, shelf)
  } catch (error) {
    if (error instanceof Refusal) return { kind: 'refused', sentence: error.message }
    throw error
  }
  return outcomeBetween(before, standingOf(changed, shelf))
}

/** Differences between two states of a scene, the worst new finding first. */
export function outcomeBetween(before: Standing, after: Standing): Outcome {
  const [worst] = missing(after.troubles, before.troubles)
  if (worst) return { kind: 'brings', finding: worst }
  const [cured] = missing(before.troubles, after.troubles)
  if (cured) return { kind: 'cures', finding: cured }
  return { kind: 'clearness', beforeDb: before.worstDb, afterDb: after.worstDb, sources: after.sources }
}

/** Troubles of the first list that the second does not have about the same place, or not as badly. */
const missing = (one: Trouble[], other: Trouble[]): Trouble[] =>
  one.filter(
    (trouble) =>
      !other.some(
        (each) =>
          placeOf(each) === placeOf(trouble) &&
          each.code === trouble.code &&
          atLeast(each.severity, trouble.severity),
      ),
  )

const placeOf = ({ subject: { link, run } }: Trouble): string => link ?? run ?? ''
