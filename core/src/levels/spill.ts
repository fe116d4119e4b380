import { atMicrophone, type Loudness, onTrack } from './loudest'

/** A microphone is meant for the loudest source it hears and for those within this of it, dB. */
export const meantWithinDb = 10
/** Somebody with a microphone of their own is a guest at another on which somebody else is louder by this, dB. */
const guestDb = 5

/** Data of a run that decide whether it is spill. */
interface Heard extends Loudness {
  end: { kind: 'recording' | 'listen'; box: string; track: string; boxName: string; name: string }
  stop?: object
  speechToNoiseDb: number
}

/**
 * Runs in which a source only spills into a recording: another is louder there by more than that, or louder at the
 * microphone, and a recording of its own holds it better. What such a run leaves over its noise harms nobody. One that is
 * held nowhere better is no spill: it should be heard, and is not.
 */
export function withSpill<Run extends Heard>(runs: readonly Run[]): (Run & { spill?: { heldBy: string } })[] {
  const alive = runs.filter(({ end, stop }) => end.kind === 'recording' && !stop)
  const [track, microphone] = [onTrack(alive), atMicrophone(alive)]
  const isBehind = (run: Run) => track(run).belowDb >= meantWithinDb || microphone(run).belowDb >= guestDb
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
