import fc from 'fast-check'
import { candidatePlaces } from '../acoustics'
import { findWays, fittingPieces, reportOf, type Way, wiringOf, withoutDetours } from '../circuit'
import { columnsOf, feedRooms, levelsOfPatch, powerControls } from '../levels'
import type { Patch } from '../model'
import { levelsAnswer, wiringAnswer } from '../report'
import { scenes, shelf } from './demo'
import { type Outline, outlineOf } from './outline'
import { anyChain } from './random-chains'
import { randomLink } from './random-links'

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

/** What is found in links made at random; those that do not go together by the hundred say nothing new. */
const randomLinks = (): unknown =>
  fc
    .sample(randomLink, { numRuns: 900, seed: 5 })
    .map((link) => reportOf(link))
    .filter(({ variants }, index) => variants.length > 0 || index % 10 === 0)
    .map(({ findings, variants }, index) => ({
      [index % 8]: { findings, facts: variants.map(({ facts }) => facts) },
    }))
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
