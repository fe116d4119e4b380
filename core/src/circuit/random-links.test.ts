import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { isPluggable } from '../model'
import { expectAgrees } from '../tests/expect-circuit'
import { pairOf, shelf } from '../tests/demo'
import { cases } from '../tests/form'
import { fits, type Piece, pieceOfGear, pluggedLink, signalsOf, variantsOf } from './index'

const gear = [...shelf.values()]
const portsOf = (direction: 'in' | 'out') =>
  gear.flatMap((thing) =>
    thing.ports
      .filter((port) => port.direction === direction && isPluggable(port.connector))
      .map((port) => ({ thing, port })),
  )
const pieces = gear.flatMap((thing) => {
  const piece = pieceOfGear(thing.id, thing, {})
  return piece ? [piece] : []
})

/** The two spread the leakage of a floating island over other nodes: 0.01 dB at most. */
const leaky = 1e-3
const count = cases(300, 20)

describe('links made at random from the shelf', () => {
  it(`agree with modified nodal analysis, ${count} of them, at DC and in sound`, { timeout: 120_000 }, () => {
    let solved = 0
    const pick = fc.record({
      out: fc.constantFrom(...portsOf('out')),
      into: fc.constantFrom(...portsOf('in')),
      row: fc.array(fc.constantFrom(...pieces), { maxLength: 4 }),
    })
    fc.assert(
      fc.property(pick, ({ out, into, row }) => {
        if (solved >= count) return
        const patch = pairOf(out.thing, out.port.id, into.thing, into.port.id)
        const plugged = pluggedLink(patch, patch.links[0]!, shelf)!
        // keep of the row what goes together, so that most links are whole
        const fitting = row.reduce<Piece[]>(
          (kept, piece) =>
            fits(kept.at(-1)?.ends[1] ?? plugged.output, piece.ends[0]!) ? [...kept, piece] : kept,
          [],
        )
        const found = variantsOf({ ...plugged, pieces: fitting, taps: undefined })
        if ('misfit' in found) return
        for (const { netlist } of found.variants) {
          solved++
          expectAgrees(netlist, 0, undefined, leaky)
          for (const signal of signalsOf(netlist))
            for (const frequencyHz of [100, 1000, 10_000]) expectAgrees(netlist, frequencyHz, signal, leaky)
        }
      }),
      { numRuns: 6000 },
    )
    expect(solved).toBeGreaterThanOrEqual(count)
  })
})
