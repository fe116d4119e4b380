import type { Source } from '../model'

export type RatioName = 'speech-to-noise' | 'signal-to-noise'

/** Name of a source's ratio to the noise in its pauses: a bell does not speak. */
export const ratioName = ({ kind }: Pick<Source, 'kind'>): RatioName =>
  kind === 'speech' ? 'speech-to-noise' : 'signal-to-noise'

/** Name of the worst ratio of several sources. */
export const worstRatioName = (sources: readonly Pick<Source, 'kind'>[]): RatioName =>
  ratioName(sources.find(({ kind }) => kind !== 'speech') ?? { kind: 'speech' })

/** At the beginning of a sentence. */
export const ratioNameFirst = (source: Pick<Source, 'kind'>): string => `S${ratioName(source).slice(1)}`
