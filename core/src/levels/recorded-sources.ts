import type { LevelFinding } from '../findings'
import { type Patch, trackKey } from '../model'
import type { Levels } from './levels'
import type { Run } from './run'
import { meantWithinDb } from './spill'
import { whereItStops } from './where-it-stops'

/** Sources of the brief that no way leads from to a recording. One that is stopped on its way has its own finding. */
export function unrecorded(
  { runs }: Levels,
  { brief, boxes }: Pick<Patch, 'brief' | 'boxes'>,
): LevelFinding[] {
  const recorded = new Set(runs.flatMap(({ source, end }) => (end.kind === 'recording' ? [source.id] : [])))
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

/** Sources that every recording of them holds far below another: by the microphone that they share, or in a mix. */
export function softer({ runs }: Levels): LevelFinding[] {
  const recorded = runs.filter(({ end, stop }) => end.kind === 'recording' && !stop)
  const atMicrophone = behindOthers(
    recorded,
    ({ entry, end }) => `${entry.part} ${trackKey(end)}`,
    ({ byEntry }) => byEntry.db,
  )
  const onTrack = behindOthers(
    recorded,
    ({ end }) => trackKey(end),
    ({ typicalDb }) => typicalDb,
  )
  return [...new Set(recorded.map(({ source }) => source.id))].flatMap((id): LevelFinding[] => {
    const own = recorded.filter(({ source }) => source.id === id)
    const [shared, mixed] = [atMicrophone, onTrack].map((behind) =>
      own.map(behind).reduce((best, each) => (each.belowDb < best.belowDb ? each : best)),
    ) as [Behind, Behind]
    const isMixed = shared.belowDb <= meantWithinDb
    const { run, louder, belowDb } = isMixed ? mixed : shared
    if (belowDb <= meantWithinDb || whereItStops(run)) return []
    const { source, entry, end } = run
    return [
      {
        severity: isMixed ? 'note' : 'degraded',
        code: 'softer',
        subject: { run: run.id, part: entry.part },
        figures: {
          source: source.name,
          track: `${end.boxName}, ${end.name}`,
          belowDb,
          louder: louder.source.name,
          by: entry.name,
          isMixed,
        },
      },
    ]
  })
}

/** A run with the loudest at the same point, and how far it is below that, dB. */
interface Behind {
  run: Run
  louder: Run
  belowDb: number
}

/** How far a run is behind the loudest at the same point. */
function behindOthers(
  runs: readonly Run[],
  pointOf: (run: Run) => string,
  levelDb: (run: Run) => number,
): (run: Run) => Behind {
  const loudest = new Map<string, Run>()
  for (const run of runs) {
    const known = loudest.get(pointOf(run))
    if (!known || levelDb(run) > levelDb(known)) loudest.set(pointOf(run), run)
  }
  return (run) => {
    const louder = loudest.get(pointOf(run)) ?? run
    return { run, louder, belowDb: levelDb(louder) - levelDb(run) }
  }
}
