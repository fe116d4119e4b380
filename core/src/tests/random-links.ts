import fc from 'fast-check'
import { fits, type Piece, pieceOfGear, type PluggedLink, pluggedLink } from '../circuit'
import { isPluggable } from '../model'
import { pairOf, shelf } from './demo'

const gear = [...shelf.values()]
const portsOf = (direction: 'in' | 'out') =>
  gear.flatMap((thing) =>
    thing.ports
      .filter((port) => port.direction === direction && isPluggable(port.connector))
      .map((port) => ({ thing, port })),
  )
const pieces = gear.flatMap((thing) => pieceOfGear(thing.id, thing, {}) ?? [])

/** An output and an input of the shelf, with a row of pieces of which each goes with the one before it. */
export const randomLink: fc.Arbitrary<PluggedLink> = fc
  .record({
    out: fc.constantFrom(...portsOf('out')),
    into: fc.constantFrom(...portsOf('in')),
    row: fc.array(fc.constantFrom(...pieces), { maxLength: 4 }),
  })
  .map(({ out, into, row }) => {
    const patch = pairOf(out.thing, out.port.id, into.thing, into.port.id)
    const plugged = pluggedLink(patch, patch.links[0]!, shelf)!
    const fitting = row.reduce<Piece[]>(
      (kept, piece) =>
        fits(kept.at(-1)?.ends[1] ?? plugged.output, piece.ends[0]!) ? [...kept, piece] : kept,
      [],
    )
    return { ...plugged, pieces: fitting, taps: undefined }
  })
