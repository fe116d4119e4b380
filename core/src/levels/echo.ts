import type { Run } from './run'

/**
 * How far the room's reverberation is above a voice, dB: from the distance where both are alike it sounds far away, however
 * quiet the boxes are. -Infinity for what does not speak: bells and halls may ring.
 */
export const echoOverVoiceDb = ({ source, atSource }: Run): number =>
  source.kind === 'speech' ? atSource.echo - atSource.typical : -Infinity
