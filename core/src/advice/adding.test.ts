import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { levelsOfPatch } from '../levels'
import { lineSources, type Patch, withSource } from '../model'
import { scene, shelf } from '../tests/demo'
import { addingEdits, socketsOf } from './adding'

describe('adding a desk', () => {
  const bench = scene('1-the-founder-at-the-bench')
  const fed = { ...bench, brief: { ...bench.brief, ...withSource(bench.brief, 'line') } }
  const desk = shelf.get('house-desk')!
  it('gives it the line feed of the brief, which is then recorded', () => {
    const hall = scene('4-bells-in-the-town-hall')
    const pulled = hall.links.filter(({ from }) => from.box === 'desk')
    const bare = applyEdits(
      hall,
      [
        ...pulled.map(({ id }) => ({ kind: 'disconnect', link: id }) as const),
        { kind: 'remove box', box: 'desk' },
      ],
      shelf,
    )
    const target = socketsOf(bare, shelf, 'in', true).find(({ end }) => end.port === pulled[0]!.to.port)!
    const carried = (patch: Patch) =>
      levelsOfPatch(patch, shelf).runs.filter(
        ({ source, end }) => source.id === lineSources(hall)[0]!.id && end.kind === 'recording',
      )
    expect(carried(bare)).toEqual([])
    const joined = applyEdits(bare, addingEdits(bare, desk, shelf, { target }), shelf)
    expect(carried(joined)).not.toEqual([])
  })
  it('gives nothing to a second desk, nor to what cannot carry a feed', () => {
    const [first] = addingEdits(fed, desk, shelf, {})
    const one = applyEdits(fed, [first!], shelf)
    expect(one.boxes.at(-1)!.source).toBe(lineSources(fed)[0]!.id)
    expect(applyEdits(one, addingEdits(one, desk, shelf, {}), shelf).boxes.at(-1)!.source).toBeUndefined()
    const recorder = shelf.get(bench.boxes.find(({ id }) => id === 'recorder')!.gear)!
    expect(addingEdits(fed, recorder, shelf, {})[0]).toMatchObject({ box: { source: undefined } })
  })
})
