import { z } from 'zod'
import { Plan } from '../model'
import { editKind } from './edit-kind'

/** Where peaks should lie, which recordings count, and the margin over the loudest moment. */
export const changePlan = editKind(z.strictObject({ kind: z.literal('change plan'), to: Plan }), {
  apply: (patch, { to }) => ({ ...patch, plan: to }),
  inverse: ({ plan }, edit) => ({ ...edit, to: plan }),
  words: ({ to: { peakTarget, counts, marginDb } }) =>
    `plan: peak target ${peakTarget}, ${counts}, ${marginDb} dB of margin`,
})
