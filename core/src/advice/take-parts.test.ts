import { describe, expect, it } from 'vitest'
import { applyEdits, type Edit } from '../edits'
import { levelsOfPatch } from '../levels'
import { checkPatch, type Patch } from '../model'
import { scene, scenes, shelf } from '../tests/demo'
import { changeWords } from '../words'
import { asTaken, backTo, changesBetween, partsAsSet } from './take-parts'

const bench = scene('1-the-founder-at-the-bench')
const then = partsAsSet(bench, shelf)
const changed = (...edits: Edit[]): Patch => applyEdits(bench, edits, shelf)
const turned: Edit = { kind: 'set control', part: 'recorder', control: 'gain-1', position: 20 }
const wordsSince = (patch: Patch) =>
  changesBetween(then, partsAsSet(patch, shelf), patch, shelf).map(changeWords).join('; ')

describe('the chain that a take keeps', () => {
  it('has every control of every part, also where it stands as it came', () => {
    for (const patch of scenes)
      for (const { id, gear, settings } of partsAsSet(patch, shelf)) {
        const thing = patch.gear.find((each) => each.id === gear) ?? shelf.get(gear)!
        expect(Object.keys(settings), id).toEqual(thing.controls.map((control) => control.id))
      }
  })
  it('says what was moved since, and nothing where nothing was or it is not known', () => {
    expect(wordsSince(changed(turned))).toBe('Gain 1 of Recorder from 34\u00A0dB to 20\u00A0dB')
    expect(wordsSince(bench)).toBe('')
    expect(changesBetween([], then, bench, shelf)).toEqual([])
  })
  it('says what was swapped, added or removed, and takes no position of one thing for that of another', () => {
    const swapped = changed({ kind: 'swap', part: 'recorder', gear: 'oriel-float-recorder' })
    expect(wordsSince(swapped)).toMatch(/Recorder swapped/)
    expect(wordsSince(swapped)).not.toMatch(/of Recorder from/)
    expect(backTo(then, swapped, shelf)).toEqual([])
    expect(asTaken(swapped, then, shelf)).toBe(swapped)
    const link = bench.links.find(({ pieces }) => pieces.length > 0)!
    const bare = {
      ...bench,
      links: bench.links.map((each) => (each === link ? { ...each, pieces: [] } : each)),
    }
    expect(wordsSince(bare)).toMatch(/ removed$/)
    const back = changesBetween(partsAsSet(bare, shelf), then, bench, shelf)
    expect(back.map(({ kind }) => kind)).toEqual(link.pieces.map(() => 'added'))
  })
  it('brings the scene back to the same levels', () => {
    const later = changed(turned)
    expect(levelsOfPatch(asTaken(later, then, shelf), shelf).runs).toEqual(levelsOfPatch(bench, shelf).runs)
    expect(asTaken(bench, then, shelf)).toBe(bench)
  })
  it('leaves out a position that the control no longer has', () => {
    const fewer = new Map(shelf)
    const recorder = shelf.get(bench.boxes.find(({ id }) => id === 'recorder')!.gear)!
    const controls = recorder.controls.map((each) =>
      each.id === 'gain-1' && each.kind === 'knob' ? { ...each, maximum: 30, initial: 20 } : each,
    )
    fewer.set(recorder.id, { ...recorder, controls })
    const later = changed(turned)
    expect(checkPatch(asTaken(later, then, fewer), fewer)).toEqual([])
    expect(backTo(then, later, fewer)).toEqual([])
  })
})
