import { createHash, randomBytes } from 'node:crypto'
import { uuidv7 } from '@iron-hush/core/model'
import type { Database } from '../database'

export interface Device {
  id: string
  name: string
  paired_at: Date
  seen_at: Date
}

const digestOf = (secret: string): string => createHash('sha256').update(secret).digest('base64url')

/** Lets a device in; gives the secret that it shows from then on. */
export async function addDevice(db: Database, name: string): Promise<string> {
  const secret = randomBytes(32).toString('base64url')
  const id = uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
  await db
    .insertInto('devices')
    .values({ id, name, secret_digest: digestOf(secret) })
    .execute()
  return secret
}

/** Least time between two notes of when a device was last seen, ms. */
const noteEveryMs = 60_000

/** The device that shows a secret; undefined where it was never let in, or was shut out. */
export async function deviceOf(db: Database, secret: string): Promise<Device | undefined> {
  const device = await db
    .selectFrom('devices')
    .select(['id', 'name', 'paired_at', 'seen_at'])
    .where('secret_digest', '=', digestOf(secret))
    .where('revoked_at', 'is', null)
    .executeTakeFirst()
  if (device && Date.now() - device.seen_at.getTime() > noteEveryMs)
    await db.updateTable('devices').set({ seen_at: new Date() }).where('id', '=', device.id).execute()
  return device
}

export const devicesOf = (db: Database): Promise<Device[]> =>
  db
    .selectFrom('devices')
    .select(['id', 'name', 'paired_at', 'seen_at'])
    .where('revoked_at', 'is', null)
    .orderBy('paired_at')
    .execute()

export async function shutOut(db: Database, id: string): Promise<void> {
  await db.updateTable('devices').set({ revoked_at: new Date() }).where('id', '=', id).execute()
}
