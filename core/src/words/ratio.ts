import type { Source } from '../model'

/** What the ratio of a source to the noise in its pauses is called: a bell does not speak. */
export const ratioName = ({ kind }: Pick<Source, 'kind'>): 'speech-to-noise' | 'signal-to-noise' =>
  kind === 'speech' ? 'speech-to-noise' : 'signal-to-noise'

/** At the beginning of a sentence. */
export const ratioNameFirst = (source: Pick<Source, 'kind'>): string => `S${ratioName(source).slice(1)}`
