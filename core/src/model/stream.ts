import { z } from 'zod'
import { text } from './text'

/** Description of the sound in a file. */
export const StreamFacts = z.strictObject({
  byteOrder: z.enum(['little-endian', 'big-endian']).optional(),
  layout: z
    .enum(['mono', 'stereo', 'two channels', 'several channels'])
    .optional()
    .describe('as the file says it; two channels: not meant for left and right ear'),
  startS: z.number().min(0).max(172_800).optional().describe('seconds from midnight, by the time code'),
  timeCode: text(24).optional().describe('hours, minutes, seconds and frames or thousandths'),
  recordedAt: text(40).optional().describe('date and time by the clock of the device'),
  channelNames: z
    .array(text(40))
    .max(64)
    .optional()
    .describe('what the recorder calls each channel, in the order of the file; empty: nothing'),
  texts: z
    .array(z.strictObject({ label: text(40), text: text(1000) }))
    .max(40)
    .default([])
    .describe('what the device or a person wrote into the file'),
})
export type StreamFacts = z.infer<typeof StreamFacts>
