import { z } from 'zod'
import { Position } from './control'
import { formatVersion } from './format-version'
import { Id, Moment, SchemaLine, text } from './text'

/** One reading as a person writes it into a file: what was done, and what was read. */
export const GivenReading = z
  .strictObject({
    step: text(300).min(1).describe('the id of the step, as `hush line-up` lists it'),
    at: Moment.optional(),
    seen: z.literal(true).optional().describe('looked at and found as planned'),
    levelDbfs: z.number().min(-200).max(60).optional().describe('read off the meter'),
    mark: Id.optional().describe('the highest mark that the meter reached'),
    moved: z.array(text(130)).max(64).optional().describe('channels that moved, as `box.track`'),
    clip: text(1000).optional().describe('a sound file, beside this one'),
    channel: z
      .number()
      .int()
      .min(1)
      .max(64)
      .optional()
      .describe('of the clip; left out: the one that is meant'),
    settings: z
      .record(text(130), Position)
      .optional()
      .describe('controls that stood otherwise than the step asks, by `box.control`'),
    playedDbfs: z.number().min(-120).max(12).optional().describe('level of the tone, if it was another'),
  })
  .refine(
    ({ seen, levelDbfs, mark, moved, clip }) =>
      [seen, levelDbfs, mark, moved, clip].filter((each) => each !== undefined).length === 1,
    'give one of seen, levelDbfs, mark, moved or clip',
  )
export type GivenReading = z.infer<typeof GivenReading>

/** Readings of a line-up as a file. */
export const ReadingsFile = z.strictObject({
  $schema: SchemaLine,
  format: z.literal('iron-hush/readings'),
  version: z.literal(formatVersion),
  readings: z.array(GivenReading).max(1000),
})
export type ReadingsFile = z.infer<typeof ReadingsFile>

const Finding = z.strictObject({
  severity: z.enum(['dead', 'harmful', 'degraded', 'note']),
  code: z.string(),
  what: z.string(),
  why: z.string(),
  remedy: z.string(),
})
const SettingAnswer = z.strictObject({
  box: z.string(),
  control: z.string(),
  position: Position,
  name: z.string(),
})

/** The line-up of a scene: what is to be done, what was read and what that means, and what is learnt. */
export const LineUpAnswer = z.strictObject({
  format: z.literal('iron-hush/line-up'),
  version: z.literal(1),
  patch: z.string(),
  steps: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.string(),
      box: z.string(),
      title: z.string(),
      detail: z.string(),
      set: z.array(SettingAnswer),
      play: z
        .strictObject({
          kind: z.string(),
          levelDbfs: z.number(),
          from: z.string().optional(),
          outDbu: z.number().optional().describe('what that is at the output that it is sent from'),
        })
        .optional(),
      expected: z.string(),
      read: z.string().optional(),
      answered: z.boolean().describe('it was read, and the reading counts'),
      findings: z.array(Finding),
    }),
  ),
  learnt: z.array(
    z.strictObject({
      box: z.string(),
      thing: z.string(),
      figures: z.array(
        z.strictObject({
          name: z.string(),
          what: z.string(),
          source: z.string(),
          movesDb: z.number().describe('or ms, of times'),
          before: z.unknown().optional().describe('left out: none was stated'),
          after: z.unknown(),
        }),
      ),
    }),
  ),
  balance: z
    .strictObject({
      fits: z.boolean(),
      changes: z.array(SettingAnswer),
      speechToNoiseDb: z.number().nullable().describe('of the worst recording that counts'),
    })
    .optional()
    .describe('what Balance asks for with what was learnt; left out where nothing was'),
  findings: z.array(Finding),
})
export type LineUpAnswer = z.infer<typeof LineUpAnswer>

/** A trial with a stand-in, from its first clip to its answer. */
export const TrialAnswer = z.strictObject({
  format: z.literal('iron-hush/trial'),
  version: z.literal(1),
  patch: z.string(),
  run: z.string(),
  device: z.string(),
  standIn: z.literal(true),
  clips: z.array(
    z.strictObject({
      set: z.array(SettingAnswer),
      speechToNoiseDb: z.number().nullable(),
      overloads: z.boolean(),
    }),
  ),
  use: z.array(SettingAnswer),
  regretDb: z.number().describe('how much better another setting may be on the average'),
})
export type TrialAnswer = z.infer<typeof TrialAnswer>
