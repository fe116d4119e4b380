import { trackKey } from '../model'

/** A microphone is meant for the loudest source it hears and for those within this of it, dB. */
export const meantWithinDb = 10

/** Data of a run that decide whether it is spill. */
interface Heard {
  source: { id: string }
  end: { kind: 'recording' | 'listen'; box: string; track: string; boxName: string; name: string }
  stop?: object
  typicalDb: number
  speechToNoiseDb: number
}

/**
 * Runs in which a source only spills into a recording: another is louder there by more than that, and a recording of its
 * own holds it better. What such a run leaves over its noise harms nobody. One that is held nowhere better is no spill: it
 * should be heard, and is not.
 */
export function withSpill<Run extends Heard>(runs: readonly Run[]): (Run & { spill?: { heldBy: string } })[] {
  const alive = runs.filter(({ end, stop }) => end.kind === 'recording' && !stop)
  const loudestDb = new Map<string, number>()
  for (const { end, typicalDb } of alive)
    loudestDb.set(trackKey(end), Math.max(loudestDb.get(trackKey(end)) ?? -Infinity, typicalDb))
  const isBehind = ({ end, typicalDb }: Run) =>
    typicalDb <= (loudestDb.get(trackKey(end)) ?? -Infinity) - meantWithinDb
  return runs.map((run) => {
    if (!alive.includes(run) || !isBehind(run)) return run
    const [held] = alive
      .filter(
        (other) =>
          other.source.id === run.source.id &&
          !isBehind(other) &&
          other.speechToNoiseDb > run.speechToNoiseDb,
      )
      .sort((one, other) => other.speechToNoiseDb - one.speechToNoiseDb)
    return held ? { ...run, spill: { heldBy: `${held.end.boxName}, ${held.end.name}` } } : run
  })
}
