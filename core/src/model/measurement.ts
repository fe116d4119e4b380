import { z } from 'zod'
import { Moment, Name, text, Uuid } from './text'

const level = z.number().nullable().describe('dBFS; null where there is nothing to measure')

export const ClipRange = z.strictObject({
  fromS: z.number().min(0),
  toS: z.number().min(0),
  levelDbfs: z.number(),
  shape: z.enum(['flat at full scale', 'flat below full scale']),
  samples: z.number().int().min(1),
})
export type ClipRange = z.infer<typeof ClipRange>

export const ChannelMeasurement = z.strictObject({
  peakDbfs: level,
  peakAtS: z.number().min(0),
  rmsDbfs: level,
  speechDbfsA: level.describe('A-weighted level while something sounds, re a full-scale sine'),
  noiseDbfsA: level.describe('A-weighted level in the pauses'),
  pauses: z
    .boolean()
    .describe('whether pauses were found; if not, the noise is that of the quietest moments'),
  clipped: z.array(ClipRange),
  clippedMore: z.number().int().min(0).describe('further ranges beyond those listed'),
  worstPeak: z.array(z.number()).max(512).describe('samples around the highest peak'),
  envelope: z
    .array(z.tuple([z.number(), z.number()]))
    .max(2048)
    .describe('lowest and highest sample by equal slices'),
})
export type ChannelMeasurement = z.infer<typeof ChannelMeasurement>

/** What was found in a clip. */
export const Measurement = z.strictObject({
  format: z.literal('iron-hush/measurement'),
  version: z.literal(1),
  clip: Name,
  container: text(40),
  codec: text(40),
  bits: z.number().int().describe('of one sample; 0: compressed sound, which has no word length'),
  rateHz: z.number(),
  lengthS: z.number().min(0),
  channels: z.array(ChannelMeasurement).max(64),
  remarks: z.array(text(400)).max(20).describe('what was odd about the file itself'),
})
export type Measurement = z.infer<typeof Measurement>

/** A measurement kept with a scene, and the recording it is held against. */
export const ProofRecord = z.strictObject({
  id: Uuid,
  scene: Uuid,
  recording: text(130).describe('`box.track` of the first channel of the clip; empty if not chosen'),
  measuredAt: Moment,
  measurement: Measurement,
})
export type ProofRecord = z.infer<typeof ProofRecord>
