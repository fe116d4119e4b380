import fc from 'fast-check'
import { candidatePlaces } from '../acoustics'
import {
  findWays,
  fits,
  fittingPieces,
  type Piece,
  pieceOfGear,
  pluggedLink,
  reportOf,
  type Way,
  wiringOf,
  withoutDetours,
} from '../circuit'
import { columnsOf, feedRooms, levelsOfPatch, powerControls } from '../levels'
import { isPluggable, type Patch } from '../model'
import { levelsAnswer, wiringAnswer } from '../report'
import { pairOf, scenes, shelf } from './demo'
import { type Outline, outlineOf } from './outline'
import { anyChain } from './random-chains'

const named = (kind: string, answerOf: (patch: Patch) => unknown): [string, () => Outline][] =>
  scenes.map((patch) => [`${kind} of ${patch.name}`, () => outlineOf(answerOf(patch))])

const shortOf = ({ from, to, pieces, lossDb, missing, price }: Way) => ({
  plugs: `${from.port} ${to.port} ${pieces.map(({ gear, reversed }) => `${gear.id} ${reversed}`).join()}`,
  lossDb,
  missing,
  price,
})
/** What a link could be made of instead, and what would fit into each. */
function waysOf(patch: Patch): unknown {
  const last = patch.links.at(-1)!
  const ways = findWays(patch, last, shelf, { mostPieces: 2, otherPorts: true })
  return {
    ways: ways.map(shortOf),
    choice: withoutDetours(ways).map(shortOf),
    fitting: patch.links.map((link) =>
      fittingPieces(link, patch, shelf).map(({ gear, reversed, replaces }) => [gear.id, reversed, replaces]),
    ),
  }
}
/** What stands beside the levels of a scene: room for its feeds, columns, and switches of supplies. */
const besideLevels = (patch: Patch) => ({
  feeds: patch.brief.sources
    .flatMap((source) => (source.kind === 'line' ? [source] : []))
    .slice(0, 1)
    .map((source) => feedRooms(patch, shelf, source)),
  columns: levelsOfPatch(patch, shelf).runs.map((run) => {
    const columns = columnsOf(run)
    return { columns, power: powerControls(run, columns, patch, shelf) }
  }),
})

const gear = [...shelf.values()]
const portsOf = (direction: 'in' | 'out') =>
  gear.flatMap((thing) =>
    thing.ports
      .filter((port) => port.direction === direction && isPluggable(port.connector))
      .map((port) => ({ thing, port })),
  )
const pieces = gear.flatMap((thing) => pieceOfGear(thing.id, thing, {}) ?? [])

/** Links of the shelf made at random, with rows of pieces that go together. */
function randomLinks(): unknown {
  const pick = fc.record({
    out: fc.constantFrom(...portsOf('out')),
    into: fc.constantFrom(...portsOf('in')),
    row: fc.array(fc.constantFrom(...pieces), { maxLength: 12 }),
  })
  return fc.sample(pick, { numRuns: 400, seed: 5 }).map(({ out, into, row }, index) => {
    const patch = pairOf(out.thing, out.port.id, into.thing, into.port.id)
    const plugged = pluggedLink(patch, patch.links[0]!, shelf)!
    const fitting: Piece[] = []
    for (const piece of row)
      if (fitting.length < 3 && fits(fitting.at(-1)?.ends[1] ?? plugged.output, piece.ends[0]!))
        fitting.push(piece)
    // misfits by the hundred say nothing new
    if (index % 10 && !fits(fitting.at(-1)?.ends[1] ?? plugged.output, plugged.inputs[0]!)) return undefined
    const { findings, variants } = reportOf({ ...plugged, pieces: fitting, taps: undefined })
    return { [index % 8]: { findings, facts: variants.map(({ facts }) => facts) } }
  })
}
/** Chains made at random: their levels and the usual places of their voices. */
const chains = fc.sample(anyChain, { numRuns: 32, seed: 6 })

/** Everything published of the wiring of the demo scenes. */
export const wiringFigures = new Map([
  ...named('wiring', (patch) => wiringAnswer(patch, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))),
  ...named('ways', waysOf),
  ['links made at random', () => outlineOf(randomLinks())],
])
/** Everything published of their levels. */
export const levelFigures = new Map([
  ...named('levels', (patch) => levelsAnswer(patch, levelsOfPatch(patch, shelf))),
  ...named('beside levels', besideLevels),
  [
    'levels of chains made at random',
    () =>
      outlineOf(
        chains.map((patch, index) => {
          const levels = levelsOfPatch(patch, new Map())
          return { [index % 8]: [levelsAnswer(patch, levels), levels.runs] }
        }),
      ),
  ],
])
const placesOf = ({ brief }: Patch) => brief.sources.map(({ id }) => candidatePlaces(brief, id))
/** What is said of usual places for a microphone. */
export const placeFigures = new Map([
  ...named('places', placesOf),
  ['places of chains made at random', () => outlineOf(chains.map(placesOf))],
])
