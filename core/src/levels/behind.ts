import { trackKey } from '../model'
import type { Behind, Run } from './run'
import { meantWithinDb } from './spill'
import { whereItStops } from './where-it-stops'

/** Marks runs of sources that every recording of them holds far below another. */
export function withBehind(runs: readonly Run[]): Run[] {
  const recorded = runs.filter((run) => run.end.kind === 'recording' && !whereItStops(run))
  const atMicrophone = loudestAt(
    recorded,
    ({ entry, end }) => `${entry.part} ${trackKey(end)}`,
    ({ byEntry }) => byEntry.db,
  )
  const onTrack = loudestAt(
    recorded,
    ({ end }) => trackKey(end),
    ({ typicalDb }) => typicalDb,
  )
  const bySource = new Map<string, Run[]>()
  for (const run of recorded) bySource.set(run.source.id, [...(bySource.get(run.source.id) ?? []), run])
  return runs.map((run) => {
    const own = bySource.get(run.source.id) ?? []
    if (run.spill || !own.includes(run)) return run
    const leastDb = (behind: BehindLoudest) => Math.min(...own.map((each) => behind(each).belowDb))
    const isMixed = leastDb(atMicrophone) <= meantWithinDb
    const behind = isMixed ? onTrack : atMicrophone
    return leastDb(behind) <= meantWithinDb ? run : { ...run, behind: { ...behind(run), isMixed } }
  })
}

type BehindLoudest = (run: Run) => Omit<Behind, 'isMixed'>

/** How far a run is below the loudest at the same point. */
function loudestAt(
  runs: readonly Run[],
  pointOf: (run: Run) => string,
  levelDb: (run: Run) => number,
): BehindLoudest {
  const loudest = new Map<string, Run>()
  for (const run of runs) {
    const known = loudest.get(pointOf(run))
    if (!known || levelDb(run) > levelDb(known)) loudest.set(pointOf(run), run)
  }
  return (run) => {
    const louder = loudest.get(pointOf(run)) ?? run
    return { louder: louder.source.name, belowDb: levelDb(louder) - levelDb(run) }
  }
}
