import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { controlsOfPatch } from '../balance'
import { type Patch, positionsOf } from '../model'
import { scenes, shelf } from '../tests/demo'
import { cases } from '../tests/form'
import { oddPatch } from '../tests/odd-patches'
import { asSet, graphOf } from './index'

/** Controls that change what a node reads as and that it does not name: who searches by names would take it for fixed. */
function unnamed(patch: Patch): string[] {
  const graph = graphOf(patch, shelf)
  const positions = asSet(graph)
  return graph.nodes.flatMap(({ id, controls, read }) => {
    const now = JSON.stringify(read(positions))
    return controlsOfPatch(patch, shelf)
      .filter(({ key }) => !controls.includes(key))
      .filter(({ key, control }) =>
        positionsOf(control).some(
          (position) =>
            JSON.stringify(read((asked) => (asked === key ? position : positions(asked)))) !== now,
        ),
      )
      .map(({ key }) => `${key} changes ${id}`)
  })
}

describe('a patch laid out as a graph', () => {
  it('has each node name every control that changes it', () => {
    expect(scenes.flatMap(unnamed)).toEqual([])
    fc.assert(
      fc.property(oddPatch, (patch) => {
        expect(unnamed(patch)).toEqual([])
      }),
      { numRuns: cases(200, 10) },
    )
  })
})
