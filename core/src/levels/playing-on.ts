import { neverPauses } from '../chain'
import { trackKey } from '../model'
import type { Run } from './run'

/**
 * Runs with what plays on in the pauses of their recording, louder than its noise: music under a voice, a feed that never
 * stops. Behind it no noise can be measured.
 */
export function withPlayingOn(runs: readonly Run[]): Run[] {
  const playing = runs.filter(
    ({ source, end, stop }) => end.kind === 'recording' && !stop && neverPauses(source),
  )
  return runs.map((run) => {
    const [loudest] = playing
      .filter(({ end, typicalDb }) => trackKey(end) === trackKey(run.end) && typicalDb > run.noiseWithPlaceDb)
      .sort((one, other) => other.typicalDb - one.typicalDb)
    return loudest && run.end.kind === 'recording' ? { ...run, playsOn: loudest.source.name } : run
  })
}
