import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import type { Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { newBox } from './new-box'

const thing = (id: string) => shelf.get(id)!

describe('one more box of a thing', () => {
  it('has a name of its own, so that a verdict says which of them it is about', () => {
    let patch: Patch = scene('1-the-founder-at-the-bench')
    const names = Array.from({ length: 3 }, () => {
      const { box, edits } = newBox(patch, thing('fennimore-plug-in-lapel'), null)
      patch = applyEdits(patch, edits, shelf)
      return box.name
    })
    // the one that the scene has goes by another name
    expect(names).toEqual([undefined, 'Plug-in lapel 2', 'Plug-in lapel 3'])
    const called = { ...patch, boxes: patch.boxes.map((box) => ({ ...box, name: 'Room omni' })) }
    expect(newBox(called, thing('oriel-room-omni'), null).box.name).toBe('Room omni 2')
  })
})
