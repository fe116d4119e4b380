import { sql } from 'kysely'
import { inject } from 'vitest'
import { uuidv7 } from '@iron-hush/core/model'
import { connect, type Database } from '../database'

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string
  }
}

/** An empty database beside the others of this run. */
export async function freshDatabase(): Promise<Database> {
  const id = uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
  const name = `test_${id.replaceAll('-', '')}`
  const admin = connect(inject('databaseUrl'))
  await sql.raw(`create database ${name}`).execute(admin)
  await admin.destroy()
  return connect(urlOf(name))
}

/** Address of a database of this run. */
export function urlOf(database: string): string {
  const url = new URL(inject('databaseUrl'))
  url.pathname = `/${database}`
  return url.href
}
