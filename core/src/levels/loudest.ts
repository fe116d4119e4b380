import { trackKey } from '../model'
import type { Run } from './run'

/** What decides how loud a run is beside others. */
export type Loudness = Pick<Run, 'typicalDb'> & {
  source: Pick<Run['source'], 'id' | 'name'>
  entry: Pick<Run['entry'], 'part'>
  byEntry: Pick<Run['byEntry'], 'db'>
  end: Pick<Run['end'], 'box' | 'track'>
}

/** The loudest source at the same point as a run, and how far the run is below it. */
export type BelowLoudest<Each> = (run: Each) => { louder: string; belowDb: number }

/** How far runs are below the loudest of their track, everything that arrives there together. */
export const onTrack = <Each extends Loudness>(runs: readonly Each[]): BelowLoudest<Each> =>
  belowLoudest(
    runs,
    ({ end }) => trackKey(end),
    ({ typicalDb }) => typicalDb,
  )

/** How far runs are below the loudest that the same microphone brings to the same track. */
export const atMicrophone = <Each extends Loudness>(runs: readonly Each[]): BelowLoudest<Each> =>
  belowLoudest(
    runs,
    ({ entry, end }) => `${entry.part} ${trackKey(end)}`,
    ({ byEntry }) => byEntry.db,
  )

function belowLoudest<Each extends Loudness>(
  runs: readonly Each[],
  pointOf: (run: Each) => string,
  levelDb: (run: Each) => number,
): BelowLoudest<Each> {
  const loudest = new Map<string, Each>()
  for (const run of runs) {
    const known = loudest.get(pointOf(run))
    if (!known || levelDb(run) > levelDb(known)) loudest.set(pointOf(run), run)
  }
  return (run) => {
    const louder = loudest.get(pointOf(run)) ?? run
    return { louder: louder.source.name, belowDb: levelDb(louder) - levelDb(run) }
  }
}
