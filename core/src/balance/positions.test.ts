import { describe, expect, it } from 'vitest'
import { graphOf } from '../chain'
import { positionsOf } from '../model'
import { generated, noisy, quiet } from '../tests/amp-chains'
import { freeControls } from './index'
import { Positions } from './positions'
import { reducedGraph } from './reduced'

const togetherMost = 2048

describe('controls that are turned as one', () => {
  it('leave no node more combinations than are looked through at once, where one control acts on two rows', () => {
    const [gain, output] = [
      { ...quiet, steps: 56, click: 0.5 },
      { ...noisy, steps: 30, click: 0.5 },
    ]
    const patch = generated(
      [quiet],
      [
        [gain, output],
        [gain, { ...output, shared: true }],
      ],
      false,
      'usual',
    )
    const graph = graphOf(patch, new Map())
    const free = freeControls(graph, patch, new Map())
    const moved = new Map(free.map(({ key, control }) => [key, positionsOf(control)]))
    const reduced = reducedGraph(graph, moved, togetherMost)
    const positions = new Positions(reduced, free, togetherMost)
    const combinations = positions.own.map((knobs) =>
      knobs.reduce((product, knob) => product * positions.knobs[knob]!.stops.length, 1),
    )
    // one gain and the output they share are one row each
    expect(Math.max(...combinations)).toBe(57 * 31)
  })
})
