import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { applyEdits, type Edit, parseJson, Patch, positionsOf, ShelfFile, shelfFor, shelfOf } from '../model'
import { levelsAgain, levelsOfPatch } from './index'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)

describe('levels of one patch after another', () => {
  for (const file of readdirSync(new URL('scenes/', demo)))
    it(`are what each comes to alone: every control of ${file}, turned, put back and undone`, () => {
      const patch = parseJson(Patch, read(`scenes/${file}`), file)
      const again = levelsAgain()
      again(patch, shelf)
      const all = shelfFor(patch, shelf)
      const parts = [...patch.boxes, ...patch.links.flatMap(({ through }) => through)]
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
