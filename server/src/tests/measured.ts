import type { Measurement } from '@iron-hush/core/model'

/** What a clip came to in which there was nothing to find. */
export const measured: Measurement = {
  format: 'iron-hush/measurement',
  version: 1,
  clip: 'a.wav',
  container: 'WAV',
  codec: 'PCM',
  bits: 24,
  rateHz: 48000,
  lengthS: 1,
  stream: { texts: [] },
  channels: [],
  loudness: null,
  faults: [],
  remarks: [],
}
