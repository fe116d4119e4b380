import type { LevelFinding } from '../findings'
import { boxesAfter, type Patch } from '../model'
import type { Levels } from './levels'
import type { Behind, Run } from './run'

/** Sources by id that some way leads from to a recording. */
const recordedIn = (runs: readonly Run[]): ReadonlySet<string> =>
  new Set(runs.flatMap(({ source, end }) => (end.kind === 'recording' ? [source.id] : [])))

/** Sources of the brief that no way leads from to a recording. One that is stopped on its way has its own finding. */
export function unrecorded(
  { runs }: Levels,
  { brief, boxes }: Pick<Patch, 'brief' | 'boxes'>,
): LevelFinding[] {
  const recorded = recordedIn(runs)
  return brief.sources
    .filter(({ id }) => !recorded.has(id))
    .map(({ id, name, kind }): LevelFinding => {
      const hears = new Set(
        brief.places
          .filter((place) => place.hears.some(({ source }) => source === id))
          .map((place) => place.id),
      )
      const picked = boxes.some(({ source, place }) =>
        kind === 'line' ? source === id : place !== undefined && hears.has(place),
      )
      const why = picked ? 'leads nowhere' : kind === 'line' ? 'no box is fed' : 'no microphone'
      return { severity: 'dead', code: 'unrecorded', subject: {}, figures: { source: name, why } }
    })
}

/**
 * Boxes that pick up a source, or are fed by it, and that no links lead on from to where anything is heard, although
 * others record it. One that a switch turns away there leads somewhere.
 */
export function leadingNowhere(
  { runs }: Levels,
  { brief, boxes, links }: Pick<Patch, 'brief' | 'boxes' | 'links'>,
): LevelFinding[] {
  const recorded = recordedIn(runs)
  const passed = new Set(
    runs.flatMap(({ entry, end, points }) => [entry.part, end.box, ...points.map(({ part }) => part)]),
  )
  return boxes.flatMap(({ id, place, source }): LevelFinding[] => {
    if ([...boxesAfter({ links }, id)].some((each) => passed.has(each))) return []
    const at = brief.places.find((each) => each.id === place)
    const fed = brief.sources.find((each) => each.id === source)
    const hears = [...(at?.hears ?? []).map((each) => each.source), ...(fed ? [fed.id] : [])]
    if (!hears.some((each) => recorded.has(each))) return []
    const figures = { place: at?.name, source: fed?.name }
    return [{ severity: 'degraded', code: 'leads nowhere', subject: { part: id }, figures }]
  })
}

/** Sources that every recording of them holds far below another, each by the recording where it is least so. */
export function softer({ runs }: Levels): LevelFinding[] {
  const best = new Map<string, Run & { behind: Behind }>()
  for (const run of runs) {
    const { source, behind } = run
    if (behind && behind.belowDb < (best.get(source.id)?.behind.belowDb ?? Infinity))
      best.set(source.id, { ...run, behind })
  }
  return [...best.values()].map(({ id, source, entry, end, behind }) => ({
    severity: behind.isMixed ? 'note' : 'degraded',
    code: 'softer',
    subject: { run: id, part: entry.part },
    figures: {
      source: source.name,
      track: `${end.boxName}, ${end.name}`,
      by: entry.name,
      ...behind,
    },
  }))
}
