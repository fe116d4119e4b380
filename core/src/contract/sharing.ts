import { z } from 'zod'
import { Moment, Name, Uuid } from '../model'
import { request } from './request'

/** A phone or another computer that was let in. */
const Device = z.strictObject({ id: Uuid, name: Name, pairedAt: Moment, seenAt: Moment })

/** Whether others in the local network may come in, where, and who did. */
export const Sharing = z.strictObject({
  on: z.boolean().describe('false: nobody but this machine can reach it'),
  address: z.string().describe('where a phone opens it; empty: not shared'),
  qrSvg: z.string().describe('the same as a picture that a camera reads'),
  fingerprint: z.string().describe('of the authority that the phone is asked to trust, SHA-256'),
  /** The code that a new device is asked for; null: none is offered at present. */
  code: z.strictObject({ digits: z.string(), until: Moment }).nullable(),
  lockedUntil: Moment.nullable().describe('after too many wrong codes'),
  devices: z.array(Device),
})
export type Sharing = z.infer<typeof Sharing>

export const readSharing = request({
  method: 'get',
  path: '/api/sharing',
  does: 'Whether this is shared in the local network, and with which devices. For the machine that it runs on.',
  answer: Sharing,
  problems: { 403: 'Not on this machine.' },
})

export const offerCode = request({
  method: 'post',
  path: '/api/sharing/code',
  does: 'Makes a code that lets one device in within two minutes. For the machine that it runs on.',
  answer: Sharing,
  problems: { 403: 'Not on this machine.', 422: 'It is not shared.' },
})

export const revokeDevice = request({
  method: 'delete',
  path: '/api/sharing/devices/:id',
  does: 'Removes a paired device. For the machine that it runs on.',
  answer: Sharing,
  problems: { 403: 'Not on this machine.' },
})
