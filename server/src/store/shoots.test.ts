import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Gear, type Patch, uuidv7 } from '@iron-hush/core/model'
import type { Database } from '../database'
import { completeDemoGear, insertDemo, loadDemo } from '../demo'
import { migrate } from '../migrate'
import { freshDatabase } from '../tests/fresh-database'
import { gearUses } from './gear'
import { createScene, deleteScene, moveScene, restoreScene } from './scene-places'
import { SceneStore } from './scenes'
import { deleteShoot, putShoot, restoreShoot, shootsOf } from './shoots'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

describe('shoots of one\u2019s own', () => {
  let db: Database
  let patch: Patch
  const shoot = id()
  const [first, second, third] = [id(), id(), id()]
  const allShoots = async () => (await shootsOf(db, { limit: 100 })).rows
  const own = async () => (await allShoots()).find((each) => each.id === shoot)
  const order = async () => (await own())!.scenes.map((scene) => scene.id)
  beforeAll(async () => {
    db = await freshDatabase()
    await migrate(db)
    await loadDemo(db)
    const [demo] = await allShoots()
    patch = (await new SceneStore().read(db, demo!.scenes[0]!.id)).patch
  })
  afterAll(() => db.destroy())

  it('are made, dated, renamed, and listed before the demo', async () => {
    await putShoot(db, shoot, {
      baseRevision: 0,
      content: { name: 'Harvest supper', date: null, place: '' },
    })
    await putShoot(db, shoot, {
      baseRevision: 1,
      content: { name: 'Harvest', date: '2026-11-28', place: 'the barn' },
    })
    const all = await allShoots()
    expect(all[0]).toEqual({
      id: shoot,
      revision: 2,
      name: 'Harvest',
      date: '2026-11-28',
      place: 'the barn',
      demo: false,
      scenes: [],
    })
    expect(all.at(-1)!.demo).toBe(true)
  })
  it('take scenes at their end, once, and let them be moved', async () => {
    for (const scene of [first, second, third, third]) await createScene(db, scene, { shoot, patch })
    expect(await order()).toEqual([first, second, third])
    await moveScene(db, third, { shoot, position: 0 })
    expect(await order()).toEqual([third, first, second])
    const demo = (await allShoots()).at(-1)!
    await moveScene(db, third, { shoot: demo.id, position: 1 })
    expect(await order()).toEqual([first, second])
    expect((await allShoots()).at(-1)!.scenes[1]!.id).toBe(third)
    await moveScene(db, third, { shoot, position: 9 })
    expect(await order()).toEqual([first, second, third])
  })
  it('refuse a scene whose gear is nowhere, or in no shoot', async () => {
    const odd = { ...patch, boxes: patch.boxes.map((box) => ({ ...box, gear: 'nowhere' })) }
    await expect(createScene(db, id(), { shoot, patch: odd })).rejects.toThrow(/neither in the file nor/)
    await expect(createScene(db, id(), { shoot: id(), patch })).rejects.toMatchObject({ status: 404 })
    expect(await order()).toEqual([first, second, third])
  })
  it('bring back a scene that was deleted to where it was, with its revision', async () => {
    expect(await deleteScene(db, second)).toEqual({ done: true })
    expect(await deleteScene(db, second)).toEqual({ done: false })
    expect(await order()).toEqual([first, third])
    expect((await gearUses(db, 'oriel-short-gun')).some((use) => use.id === second)).toBe(false)
    await restoreScene(db, second)
    expect(await order()).toEqual([first, second, third])
  })
  it('are deleted with their scenes, and restored with them', async () => {
    await deleteShoot(db, shoot)
    expect(await own()).toBeUndefined()
    await restoreShoot(db, shoot)
    expect(await order()).toEqual([first, second, third])
    await expect(restoreShoot(db, id())).rejects.toMatchObject({ status: 404 })
  })
  it('gear of an older demo comes by what it lacks, and what was changed by hand stays', async () => {
    const stored = async (of: string) =>
      (await db.selectFrom('gear').select('document').where('id', '=', of).executeTakeFirstOrThrow())
        .document as Gear
    const put = (gear: Gear) =>
      db
        .updateTable('gear')
        .set({ document: JSON.stringify(gear) })
        .where('id', '=', gear.id)
        .execute()
    const { mount: _, ...lapel } = await stored('fennimore-plug-in-lapel')
    const { mount: __, ...gun } = await stored('oriel-short-gun')
    await put({ ...lapel, owned: 5 })
    await put({ ...gun, name: 'My gun' })
    expect(await completeDemoGear(db)).toBe(1)
    expect(await stored('fennimore-plug-in-lapel')).toEqual({ ...lapel, owned: 5, mount: 'worn' })
    expect(await stored('oriel-short-gun')).toEqual({ ...gun, name: 'My gun' })
    expect(await completeDemoGear(db)).toBe(0)
  })
  it('the demo can be deleted and brought back as it shipped', async () => {
    const demo = (await allShoots()).at(-1)!
    await deleteShoot(db, demo.id)
    expect((await allShoots()).some((each) => each.demo)).toBe(false)
    await insertDemo(db)
    const back = (await allShoots()).find((each) => each.demo)!
    expect(back.scenes.map(({ name }) => name)).toEqual(demo.scenes.map(({ name }) => name))
  })
})
