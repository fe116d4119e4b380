import { z } from 'zod'
import { request } from './request'

/** Something that is stored and that this release cannot read: it is kept as it is, and can be saved. */
export const Unreadable = z.strictObject({
  kind: z.enum(['gear', 'take', 'proof']),
  id: z.string(),
  why: z.string().describe('what in it cannot be read'),
  content: z.unknown().describe('as it is stored'),
})
export type Unreadable = z.infer<typeof Unreadable>

export const listUnreadable = request({
  method: 'get',
  path: '/api/unreadable',
  does: 'What is stored and cannot be read. The lists go without it.',
  answer: z.array(Unreadable),
})
