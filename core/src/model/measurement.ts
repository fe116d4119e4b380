import { z } from 'zod'
import { StreamFacts } from './stream'
import { Moment, Name, text, Uuid } from './text'

const level = z.number().nullable().describe('dBFS; null where there is nothing to measure')

export const ClipRange = z.strictObject({
  fromS: z.number().min(0),
  toS: z.number().min(0),
  levelDbfs: z.number(),
  shape: z.enum(['flat at full scale', 'flat below full scale', 'bent', 'sagging']),
  samples: z.number().int().min(1),
  confidence: z.number().min(0).max(1).default(1),
})
export type ClipRange = z.infer<typeof ClipRange>

export const TimeRange = z.strictObject({ fromS: z.number().min(0), toS: z.number().min(0) })
export type TimeRange = z.infer<typeof TimeRange>

const fault = <Code extends string, Figures extends z.ZodRawShape>(code: Code, figures: Figures) =>
  z.strictObject({
    code: z.literal(code),
    channel: z.number().int().min(0).describe('from 0; of two channels the second'),
    ranges: z.array(TimeRange).max(200),
    more: z.number().int().min(0).describe('further ranges beyond those listed'),
    confidence: z.number().min(0).max(1),
    ...figures,
  })
const relation = {
  differenceDb: z.number().describe('second over first'),
  likeness: z.number().min(-1.01).max(1.01),
}

/** Something that was found in a clip, with where and how sure. */
export const ClipFault = z.discriminatedUnion('code', [
  fault('hum', { mainsHz: z.number(), levelDbfs: z.number() }),
  fault('wind', { levelDbfs: z.number() }),
  fault('pop', { levelDbfs: z.number() }),
  fault('pumping', { risesDb: z.number(), releaseS: z.number() }),
  fault('dropout', { longestS: z.number() }),
  fault('rustle', { totalS: z.number() }),
  fault('click', { levelDbfs: z.number() }),
  fault('channels equal', relation),
  fault('channels unequal', relation),
  fault('channels opposite', relation),
  fault('channels delayed', { ...relation, delayMs: z.number() }),
  fault('one channel silent', relation),
])
export type ClipFault = z.infer<typeof ClipFault>

export const Tone = z.strictObject({
  hz: z.number(),
  levelDbfs: z.number().describe('RMS re a full-scale sine'),
  distortionDb: z.number().describe('harmonics 2 to 7 together, re the tone'),
})
export type Tone = z.infer<typeof Tone>

export const Loudness = z.strictObject({
  integratedLufs: level,
  momentaryLufs: level.describe('largest in 400 ms'),
  shortTermLufs: level.describe('largest in 3 s'),
  rangeLu: level,
})
export type Loudness = z.infer<typeof Loudness>

export const ChannelMeasurement = z.strictObject({
  peakDbfs: level,
  peakAtS: z.number().min(0),
  rmsDbfs: level,
  speechDbfsA: level.describe('A-weighted level while something sounds, re a full-scale sine'),
  noiseDbfsA: level.describe('A-weighted level in the pauses'),
  pauses: z
    .boolean()
    .describe('whether pauses were found; if not, the noise is that of the quietest moments'),
  truePeakDbtp: level.default(null).describe('between the samples too (ITU-R BS.1770)'),
  tone: Tone.nullable().default(null).describe('a steady test tone, if it holds one'),
  ceilingDbfs: level.default(null).describe('where crests are cut or towards which they are bent'),
  clipped: z.array(ClipRange),
  clippedMore: z.number().int().min(0).describe('further ranges beyond those listed'),
  worstPeak: z.array(z.number()).max(512).describe('samples around the highest peak'),
  envelope: z
    .array(z.tuple([z.number(), z.number()]))
    .max(2048)
    .describe('lowest and highest sample by equal slices'),
  levelsDbfsA: z.array(level).max(2048).default([]).describe('A-weighted level by equal slices'),
  noiseBands: z
    .array(z.strictObject({ hz: z.number(), levelDbfs: level }))
    .max(40)
    .default([])
    .describe('the quietest moments in thirds of an octave'),
})
export type ChannelMeasurement = z.infer<typeof ChannelMeasurement>

/** Codec name of floating-point sound, which may be low and raised later at no cost. */
export const floatingPcm = 'PCM floating point'

/** Everything measured of a clip. */
export const Measurement = z.strictObject({
  format: z.literal('iron-hush/measurement'),
  version: z.literal(1),
  clip: Name,
  container: text(40),
  codec: text(40),
  bits: z.number().int().describe('of one sample; 0: compressed sound, which has no word length'),
  rateHz: z.number(),
  lengthS: z.number().min(0),
  stream: StreamFacts.default({ texts: [] }),
  loudness: Loudness.nullable().default(null),
  faults: z.array(ClipFault).max(1000).default([]),
  channels: z.array(ChannelMeasurement).max(64),
  remarks: z.array(text(400)).max(20).describe('what was odd about the file itself'),
})
export type Measurement = z.infer<typeof Measurement>

/** The take that a clip holds, and where in it the clip begins. */
export const ClipTake = z.strictObject({
  id: Uuid,
  number: z.number().int().min(1).max(9999),
  laterS: z.number().describe('the clip begins so much later than the take; negative: earlier'),
  by: z.enum(['time', 'name', 'hand']).describe('what it was known by'),
})
export type ClipTake = z.infer<typeof ClipTake>

/** A measurement kept with a scene, and the recording it is held against. */
export const ProofRecord = z.strictObject({
  id: Uuid,
  scene: Uuid,
  recording: text(130).describe('`box.track` of the first channel of the clip; empty if not chosen'),
  take: ClipTake.nullable().default(null),
  measuredAt: Moment,
  measurement: Measurement,
})
export type ProofRecord = z.infer<typeof ProofRecord>
