import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { parseJson, Patch, ShelfFile, shelfOf } from '../model'
import { levelsOfPatch, pauseStory } from './index'

const read = (file: string) => readFileSync(new URL(`../../../demo/${file}`, import.meta.url), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const bench = parseJson(Patch, read('scenes/1-the-founder-at-the-bench.json'), 'bench')
const automatic = applyEdits(
  bench,
  [{ kind: 'set control', part: 'camera', control: 'gain-mode', position: 'auto' }],
  shelf,
)
const storyOf = (patch: Patch) => {
  const run = levelsOfPatch(patch, shelf).runs.find(({ end }) => end.box === 'camera')!
  const gearOf = (part: string) => shelf.get(patch.boxes.find(({ id }) => id === part)?.gear ?? '')
  return { run, story: pauseStory(run, gearOf) }
}

describe('pauses under automatic gain', () => {
  it('rise with time, towards what the settled figure says', () => {
    const { run, story } = storyOf(automatic)
    const rises = story!.rises.map(({ db }) => db)
    expect(rises).toEqual([...rises].sort((one, other) => one - other))
    // the plan reckons with three seconds, which is the second of them
    expect(rises[1]).toBeCloseTo(run.pauseRiseDb, 6)
    expect(rises[2]).toBeGreaterThan(rises[1]!)
    expect(story!.partName).toBe('Camera')
    expect(story!.lossAfterLoudDb).toBeGreaterThanOrEqual(0)
  })
  it('are given at 1, 3 and 10 s by what the follower of automatic gain does on samples', () => {
    const { run, story } = storyOf(automatic)
    const { spokenDb, pauseDb, loudestDb } = run.points.find((each) => each.automatic)!.automatic!
    expect(story!.rises.map(({ afterS }) => afterS)).toEqual([1, 3, 10])
    // nothing of the noise is after the gain that matters: it rises no more than the gain does
    for (const { db } of story!.rises) expect(db).toBeLessThanOrEqual(pauseDb - spokenDb + 1e-9)
    expect(story!.lossAfterLoudDb).toBeLessThanOrEqual(spokenDb - loudestDb + 1e-9)
  })
  it('have no story where the level is set by hand', () => {
    expect(storyOf(bench).story).toBeUndefined()
  })
})
