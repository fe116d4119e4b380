import { type LinkReport, wiringFindings, wiringOf } from '../circuit'
import { atLeast, findingsOf, levelsOfPatch, severities, type Severity } from '../levels'
import { applyEdits, type Edit } from '../edits'
import { checkPatch, type Patch, type Shelf } from '../model'

/** What a change would bring: the worst that would be new, or what it comes to. */
export interface Outcome {
  brings: string
  severity: Severity | 'none'
}

/** Outcomes without trouble first, then by how bad. */
export const byTrouble = (one: Outcome, other: Outcome): number => rankOf(one) - rankOf(other)
const rankOf = ({ severity }: Outcome): number => (severity === 'none' ? -1 : severities.indexOf(severity))

/** Something that is at least degraded, in a link or on a run. */
interface Trouble {
  place: string
  about: string
  severity: Severity
  what: string
}

/** How a patch stands: its troubles, and the worst speech-to-noise of its recordings, dB. */
export interface Standing {
  troubles: Trouble[]
  worstDb?: number
}

/** Circuits that were solved: most offers change one link of many. */
const solved = new Map<string, LinkReport>()
const mostSolved = 2000

/** How a patch stands now. Compute it once for a list of outcomes. */
export function standingOf(patch: Patch, shelf: Shelf): Standing {
  if (checkPatch(patch, shelf).length) return { troubles: [] }
  if (solved.size > mostSolved) solved.clear()
  const wiring = wiringOf(patch, shelf, (key, solve) => {
    const report = solved.get(key) ?? solve()
    solved.set(key, report)
    return report
  })
  const levels = levelsOfPatch(patch, shelf)
  const ratios = levels.runs.flatMap(({ end, stop, speechToNoiseDb }) =>
    end.kind === 'recording' && !stop ? [speechToNoiseDb] : [],
  )
  // the cause in the wiring stands before what follows from it in the levels
  const troubles: Trouble[] = [
    ...wiringFindings(wiring).map(({ link, ...finding }) => ({ ...finding, place: link })),
    ...findingsOf(levels, {
      plan: patch.plan,
      wantedSpeechToNoiseDb: patch.brief.wantedSpeechToNoiseDb,
      patch,
    }).map(({ run, ...finding }) => ({ ...finding, place: run })),
  ]
  return {
    troubles: troubles
      .filter(({ severity }) => atLeast(severity, 'degraded'))
      .sort((one, other) => severities.indexOf(other.severity) - severities.indexOf(one.severity)),
    worstDb: ratios.length ? Math.min(...ratios) : undefined,
  }
}

/**
 * What would be new or worse after a change of the patch, in one sentence; else what it would take away, or what the
 * clearness of the recordings comes to. The wiring and the levels of the result are computed for it.
 */
export function outcomeOf(
  patch: Patch,
  edits: Edit[],
  shelf: Shelf,
  before = standingOf(patch, shelf),
): Outcome {
  try {
    const after = standingOf(applyEdits(patch, edits, shelf), shelf)
    const [worst] = missing(after.troubles, before.troubles)
    if (worst) return { brings: worst.what, severity: worst.severity }
    const [cured] = missing(before.troubles, after.troubles)
    return { brings: cured ? `cures: ${cured.what}` : clearness(before, after), severity: 'none' }
  } catch (error) {
    return { brings: error instanceof Error ? error.message : String(error), severity: 'dead' }
  }
}

function clearness(before: Standing, after: Standing): string {
  const db = (value: number | undefined) => value?.toFixed(1).replace('-', '\u2212')
  const [was, is] = [db(before.worstDb), db(after.worstDb)]
  if (is === undefined) return 'nothing is recorded with it yet'
  if (was === undefined) return `worst speech-to-noise ${is} dB`
  return `worst speech-to-noise ${was === is ? `stays ${is}` : `${was} \u2192 ${is}`} dB`
}

/** Troubles of the first list that the second does not have about the same place, or not as badly. */
const missing = (one: Trouble[], other: Trouble[]): Trouble[] =>
  one.filter(
    (trouble) =>
      !other.some(
        (each) =>
          each.place === trouble.place &&
          each.about === trouble.about &&
          atLeast(each.severity, trouble.severity),
      ),
  )
