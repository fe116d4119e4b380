import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import type { Patch } from '../model'
import { scene, scenes, shelf } from '../tests/demo'
import { findingsOf, levelsOfPatch } from './index'
import { levelWords } from '../words'

const unrecorded = (patch: Patch) =>
  findingsOf(levelsOfPatch(patch, shelf), { plan: patch.plan, patch }).filter(
    ({ code }) => code === 'unrecorded',
  )

describe('a source that no way leads from to a recording', () => {
  const hall = scene('4-bells-in-the-town-hall')
  it('is none in the scenes of the demo', () => {
    for (const each of scenes) expect(unrecorded(each), each.name).toEqual([])
  })
  it('is dead, with what is missing: the box that gives a line', () => {
    const boxes = hall.boxes.map((box) => (box.id === 'desk' ? { ...box, source: undefined } : box))
    const [found, ...others] = unrecorded({ ...hall, boxes })
    expect(others).toEqual([])
    expect(found!.severity).toBe('dead')
    expect(levelWords(found!).what).toBe('Not recorded: ringer at the hall’s microphone.')
    expect(levelWords(found!).why).toMatch(/It feeds no box of the chain/)
  })
  it('the microphone at a place that hears it', () => {
    const moved = applyEdits(hall, [{ kind: 'place box', box: 'room', place: null }], shelf)
    expect(unrecorded(moved).map((finding) => levelWords(finding).why)).toEqual([
      'No microphone is at a place that hears it.',
    ])
  })
  it('or the way on from there', () => {
    const link = hall.links.find(({ from }) => from.box === 'room')!.id
    const pulled = applyEdits(hall, [{ kind: 'disconnect', link }], shelf)
    expect(unrecorded(pulled).map((finding) => levelWords(finding).why)).toEqual([
      'The microphone that picks it up is not connected to a recording.',
    ])
  })
})
