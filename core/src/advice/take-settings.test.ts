import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { levelsOfPatch } from '../levels'
import { scenes, scene, shelf } from '../tests/demo'
import { movedWords } from '../words'
import { asTaken, backTo, movedControls, settingsNow } from './take-settings'

const bench = scene('1-the-founder-at-the-bench')
const then = settingsNow(bench, shelf)
const later = applyEdits(
  bench,
  [{ kind: 'set control', part: 'recorder', control: 'gain-1', position: 20 }],
  shelf,
)

describe('the settings that a take keeps', () => {
  it('are those of every control, also where it stands as it came', () => {
    for (const patch of scenes)
      for (const { id, gear } of patch.boxes)
        expect(Object.keys(settingsNow(patch, shelf)[id] ?? {})).toEqual(
          (patch.gear.find((each) => each.id === gear) ?? shelf.get(gear)!).controls.map((each) => each.id),
        )
  })
  it('tell what was moved since, and nothing where nothing was or it is not known', () => {
    const words = movedWords(movedControls(then, settingsNow(later, shelf), later, shelf))
    expect(words).toBe('Gain 1 of Recorder from 34 dB to 20 dB')
    expect(movedControls(then, then, bench, shelf)).toEqual([])
    expect(movedControls({}, then, bench, shelf)).toEqual([])
  })
  it('bring the scene back to the same levels, but for boxes that are no longer there', () => {
    expect(levelsOfPatch(asTaken(later, then, shelf), shelf).runs).toEqual(levelsOfPatch(bench, shelf).runs)
    expect(asTaken(bench, then, shelf)).toBe(bench)
    expect(backTo({ ...then, gone: { gain: 3 } }, bench, shelf)).toEqual([])
  })
})
