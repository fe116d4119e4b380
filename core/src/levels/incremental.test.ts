import { describe, expect, it } from 'vitest'
import { applyEdits, type Edit } from '../edits'
import { positionsOf, shelfFor } from '../model'
import { scenes, shelf } from '../tests/demo'
import { cases } from '../tests/form'
import { incrementalLevels, levelsOfPatch } from './index'

describe('levels of one patch after another', () => {
  for (const patch of cases(scenes, scenes.slice(1, 4)))
    it(`are what each comes to alone: every control of ${patch.name}, turned, put back and undone`, () => {
      const again = incrementalLevels()
      again(patch, shelf)
      const all = shelfFor(patch, shelf)
      const parts = [...patch.boxes, ...patch.links.flatMap(({ pieces }) => pieces)]
      for (const { id, gear } of parts)
        for (const control of all.get(gear)!.controls) {
          const positions = positionsOf(control)
          for (const position of [positions[0]!, positions.at(-1)!, null]) {
            const edit: Edit = { kind: 'set control', part: id, control: control.id, position }
            const next = applyEdits(patch, [edit], shelf)
            expect(again(next, shelf).runs, `${id}.${control.id} ${position}`).toEqual(
              levelsOfPatch(next, shelf).runs,
            )
          }
        }
      expect(again(patch, shelf)).toEqual(levelsOfPatch(patch, shelf))
    })
})
