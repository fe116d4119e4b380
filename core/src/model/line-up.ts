import { z } from 'zod'
import { Position } from './control'
import { CeilingShape } from './stage'
import { Id, Moment, Name, text, Uuid } from './text'

const dbfs = z.number().min(-200).max(60)

/** Readings of a short clip recorded for a step of the line-up. Levels in dBFS. */
export const ClipReading = z.strictObject({
  kind: z.literal('clip'),
  clip: Name,
  channel: z.number().int().min(0).max(63).default(0),
  toneDbfs: dbfs.nullable().default(null).describe('level of the tone, if it holds one'),
  toneHz: z.number().positive().nullable().default(null),
  distortionDb: z.number().nullable().default(null).describe('harmonics of the tone, re the tone'),
  peakDbfs: dbfs.nullable().default(null),
  speechDbfsA: dbfs.nullable().default(null),
  noiseDbfsA: dbfs.nullable().default(null),
  ceilingDbfs: dbfs.nullable().default(null).describe('where crests are cut or bent'),
  ceilingShape: CeilingShape.nullable().default(null),
  atFullScale: z.boolean().default(false).describe('crests are cut at full scale, by the file itself'),
  automatic: z
    .strictObject({
      targetDbfs: dbfs.nullable(),
      gainFallsDb: z.number().min(0).max(120),
      attackMs: z.number().min(0).max(60_000).nullable(),
      holdMs: z.number().min(0).max(60_000).nullable(),
      releaseMs: z.number().min(0).max(60_000).nullable(),
    })
    .nullable()
    .default(null)
    .describe('what the bursts show of automatic gain'),
})
export type ClipReading = z.infer<typeof ClipReading>

/** The result of a step of the line-up: read, seen or recorded. */
export const ReadingResult = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('seen') }).describe('looked at and found as planned'),
  z.strictObject({ kind: z.literal('level'), levelDbfs: dbfs }).describe('a level read off the meter'),
  z.strictObject({ kind: z.literal('mark'), mark: Id }).describe('the highest mark that the meter reached'),
  z
    .strictObject({ kind: z.literal('channels'), moved: z.array(text(130)).max(64) })
    .describe('which channels moved, as `box.track`'),
  ClipReading,
])
export type ReadingResult = z.infer<typeof ReadingResult>

/** A step of the line-up that was done, with how everything stood when it was. */
export const LineUpReading = z.strictObject({
  id: Uuid,
  at: Moment,
  step: text(300).describe('the step it answers'),
  basis: text(40).describe('the chain that the step was made for; another chain asks again'),
  result: ReadingResult,
  gear: z.record(Id, Id).default({}).describe('the thing that each box of the step was'),
  settings: z.record(text(130), Position).default({}).describe('controls as they stood, by `box.control`'),
  playedDbfs: dbfs.nullable().default(null).describe('level of the tone at the box that it was sent from'),
})
export type LineUpReading = z.infer<typeof LineUpReading>
