import { z } from 'zod'
import { SetPart } from './patch'
import { Moment, Note, text, Uuid } from './text'

/** Events that affect the sound on the day. */
export const MarkKind = z.enum(['aircraft', 'rustle', 'too loud', 'wind', 'dropout', 'hum', 'word'])
export type MarkKind = z.infer<typeof MarkKind>

export const Mark = z.strictObject({
  id: Uuid,
  kind: MarkKind,
  atS: z.number().min(0).max(86_400).describe('seconds from the start of the take'),
  channel: text(130).describe('the recorded channel it hit, `box.track`; empty for all'),
  note: text(1000).default(''),
})
export type Mark = z.infer<typeof Mark>

export const Take = z.strictObject({
  id: Uuid,
  scene: Uuid,
  number: z.number().int().min(1).max(9999),
  startedAt: Moment,
  endedAt: Moment.nullable(),
  verdict: z.enum(['open', 'good', 'not good']).default('open'),
  note: Note.default(''),
  marks: z
    .array(Mark)
    .max(2000)
    .refine(
      (marks) => new Set(marks.map(({ id }) => id)).size === marks.length,
      'give every mark an id of its own',
    )
    .default([]),
  parts: z
    .array(SetPart)
    .max(1000)
    .default([])
    .describe('what the chain was made of when it began, with every control as it stood; empty: not known'),
})
export type Take = z.infer<typeof Take>
