import { z } from 'zod'
import { request } from './request'

export const health = request({
  method: 'get',
  path: '/api/health',
  does: 'Whether the server is running.',
  answer: z.strictObject({ alive: z.literal(true) }),
})

export const readiness = request({
  method: 'get',
  path: '/api/ready',
  does: 'Whether the server can answer: whether its database does.',
  answer: z.strictObject({ ready: z.literal(true) }),
  problems: { 503: 'The database does not answer just now.' },
})
