import type { Run } from '@iron-hush/core/levels'
import type { Brief } from '@iron-hush/core/model'

/** What the noise of the place is, and how loud at the microphone of a run. */
export function placeWords({ atSource }: Run, { noises }: Brief): string {
  const wind = Number.isFinite(atSource.wind) ? ['wind'] : []
  const names = [...noises.map(({ name }) => name), ...wind].join(', ')
  return `${names || 'place'} at the microphone, ${atSource.placeNoise.toFixed(0)} dB(A)`
}

/** What the three levels of a run are called. */
export const momentWords = ({ source }: Run) =>
  source.kind === 'strike'
    ? { loudest: 'loudest strike', typical: 'typical', quietest: 'quietest remark' }
    : { loudest: 'loudest peak', typical: 'typical', quietest: 'quietest' }
