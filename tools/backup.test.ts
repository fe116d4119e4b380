import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { uuidv7 } from '@iron-hush/core/model'
import { isLong } from '../core/src/tests/form'
import { connect } from '../server/src/database'
import { loadDemo } from '../server/src/demo'
import { migrate } from '../server/src/migrate'
import { SceneStore } from '../server/src/store/scenes'
import { firstRelease } from '../server/src/tests/first-release'
import { backupFolder, dailyBackup } from './backup.mjs'
import { writeBackup } from './backup-file.mjs'
import { asking, settingsOf, startDatabase } from './database.mjs'
import { restore } from './restore.mjs'

const scratch = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-backup-'))
chmodSync(scratch, 0o755)
const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

describe('a backup', { timeout: 120_000 }, () => {
  const home = path.join(scratch, 'home')
  const file = path.join(scratch, 'kept.hush-backup')
  let database: Awaited<ReturnType<typeof startDatabase>>
  let scene: string
  const note = async (text: string, baseRevision: number) => {
    const db = connect(database.url)
    const edits = [{ kind: 'note' as const, note: text }]
    await new SceneStore().change(db, scene, { id: id(), baseRevision, edits })
    await db.destroy()
  }
  const noteIn = async (url: string) => {
    const db = connect(url)
    const { patch, revision } = await new SceneStore().read(db, scene)
    await db.destroy()
    return { note: patch.note, revision }
  }
  beforeAll(async () => {
    database = await startDatabase(home)
    const db = connect(database.url)
    await migrate(db)
    await loadDemo(db)
    scene = (await db.selectFrom('scenes').select('id').orderBy('position').executeTakeFirstOrThrow()).id
    await db.destroy()
    await note('as it was', 1)
    await writeBackup({ bin: database.bin, url: database.ownUrl, file, release: '0.1.0' })
    await note('changed since', 2)
  })
  afterAll(async () => {
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  })

  it('says what is in it, and is restored beside what is there, which is kept', async () => {
    const { header, before } = await restore(file, home)
    expect(header.counts).toMatchObject({ shoots: 1, scenes: 8, takes: 0 })
    expect(settingsOf(home).database).not.toBe(before)
    const after = await startDatabase(home)
    const restored = await noteIn(after.url)
    expect(restored.note).toBe('as it was')
    // nothing that a device knew is a revision here any more
    expect(restored.revision).toBeGreaterThan(1000)
    // the one before is still whole
    expect((await noteIn(database.url)).note).toBe('changed since')
  })
  it.runIf(isLong)('is restored onto a machine that has nothing', async () => {
    const fresh = path.join(scratch, 'fresh')
    await restore(file, fresh)
    const there = await startDatabase(fresh)
    expect((await noteIn(there.url)).note).toBe('as it was')
    await there.stop()
  })
  it.runIf(isLong)('of an earlier release is restored, and brought to this one', async () => {
    await asking(database.adminUrl, (ask) => ask('create database earlier'))
    const url = new URL(database.adminUrl)
    url.pathname = '/earlier'
    const db = connect(url.href)
    const { scene: kept, states } = await firstRelease(db)
    await db.destroy()
    const earlier = path.join(scratch, 'earlier.hush-backup')
    await writeBackup({ bin: database.bin, url: url.href, file: earlier, release: '0.0.1' })
    const fresh = path.join(scratch, 'brought')
    expect(await restore(earlier, fresh)).toMatchObject({ scenes: 1, unreadable: 0 })
    const there = await startDatabase(fresh)
    const restored = connect(there.url)
    expect((await new SceneStore().read(restored, kept)).patch).toEqual(states.at(-1))
    await restored.destroy()
    await there.stop()
  })
  it.each([
    ['cut short', (whole: Buffer) => whole.subarray(0, whole.length - 100), /is cut short/],
    [
      'changed in one bit',
      (whole: Buffer) => {
        const changed = Buffer.from(whole)
        changed[whole.length - 1000]! ^= 1
        return changed
      },
      /is damaged: its checksum/,
    ],
    ['no backup at all', () => Buffer.from('PGDMP and so on'), /is no backup of Iron Hush/],
    ['without its head', (whole: Buffer) => whole.subarray(30), /is no backup of Iron Hush/],
  ])('that is %s changes nothing, and says so', async (_, spoil, expected) => {
    const bad = path.join(scratch, 'bad.hush-backup')
    writeFileSync(bad, spoil(readFileSync(file)))
    const before = settingsOf(home)
    await expect(restore(bad, home)).rejects.toThrow(expected)
    expect(settingsOf(home)).toEqual(before)
  })
  it.runIf(isLong)('of a release to come is refused, and its database is not left behind', async () => {
    const later = path.join(scratch, 'later.hush-backup')
    const databases = () =>
      asking(database.adminUrl, (ask) => ask('select datname from pg_database order by datname'))
    await asking(database.ownUrl, (ask) => ask(`insert into migrations (name) values ('9999-to-come')`))
    await writeBackup({ bin: database.bin, url: database.ownUrl, file: later, release: '9.0.0' })
    await asking(database.ownUrl, (ask) => ask(`delete from migrations where name = '9999-to-come'`))
    const before = await databases()
    await expect(restore(later, home)).rejects.toThrow(/newer Iron Hush \(step 9999-to-come\)/)
    expect(await databases()).toEqual(before)
  })
  it.runIf(isLong)('is made once a day at the start, and the last seven are kept', async () => {
    const folder = backupFolder(home)
    mkdirSync(folder, { recursive: true })
    writeFileSync(path.join(folder, 'my-own.hush-backup'), 'mine')
    for (let day = 1; day <= 9; day++)
      await dailyBackup(database, new Date(`2026-06-${String(day).padStart(2, '0')}T08:00:00Z`))
    await dailyBackup(database, new Date('2026-06-09T20:00:00Z'))
    expect(readdirSync(folder).sort()).toEqual([
      ...[3, 4, 5, 6, 7, 8, 9].map((day) => `daily-2026-06-0${day}.hush-backup`),
      'my-own.hush-backup',
    ])
    await expect(
      restore(path.join(folder, 'daily-2026-06-09.hush-backup'), path.join(scratch, 'daily')),
    ).resolves.toMatchObject({ scenes: 8 })
    expect(existsSync(path.join(folder, 'daily-2026-06-02.hush-backup'))).toBe(false)
  })
})
