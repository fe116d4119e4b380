import { atMicrophone, type BelowLoudest, onTrack } from './loudest'
import type { Run } from './run'
import { meantWithinDb } from './spill'
import { whereItStops } from './where-it-stops'

/** Marks runs of sources that every recording of them holds far below another. */
export function withBehind(runs: readonly Run[]): Run[] {
  const recorded = runs.filter((run) => run.end.kind === 'recording' && !whereItStops(run))
  const [shared, mixed] = [atMicrophone(recorded), onTrack(recorded)]
  const bySource = new Map<string, Run[]>()
  for (const run of recorded) bySource.set(run.source.id, [...(bySource.get(run.source.id) ?? []), run])
  return runs.map((run) => {
    const own = bySource.get(run.source.id) ?? []
    if (run.spill || !own.includes(run)) return run
    const leastDb = (behind: BelowLoudest<Run>) => Math.min(...own.map((each) => behind(each).belowDb))
    const isMixed = leastDb(shared) < meantWithinDb
    const behind = isMixed ? mixed : shared
    return leastDb(behind) < meantWithinDb ? run : { ...run, behind: { ...behind(run), isMixed } }
  })
}
