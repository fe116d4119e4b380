import { z } from 'zod'

/** RFC 9457 problem; a conflict carries both versions. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  theirs: z.unknown().optional(),
  yours: z.unknown().optional(),
})
export type Problem = z.infer<typeof Problem>
