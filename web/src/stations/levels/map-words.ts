import type { Run } from '@iron-hush/core/levels'
import type { Brief } from '@iron-hush/core/model'

/** Name of the place's noise, and its level at a run's microphone. */
export function placeWords({ atSource }: Run, { noises }: Brief): string {
  const wind = Number.isFinite(atSource.wind) ? ['wind'] : []
  const names = [...noises.map(({ name }) => name), ...wind].join(', ')
  return `${names || 'place'} at the microphone, ${atSource.placeNoise.toFixed(0)} dB(A)`
}

/** Names of a run's three levels. */
export const momentWords = ({ source }: Run) =>
  source.kind === 'strike'
    ? { loudest: 'loudest strike', typical: 'typical', quietest: 'quietest' }
    : { loudest: 'loudest peak', typical: 'typical', quietest: 'quietest' }
