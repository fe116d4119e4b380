import { candidatePlaces } from '../acoustics'
import { findWays, fittingPieces, type Way, wiringOf, withoutDetours } from '../circuit'
import { columnsOf, feedRooms, levelsOfPatch, powerControls } from '../levels'
import type { Patch } from '../model'
import { levelsAnswer, wiringAnswer } from '../report'
import { scenes, shelf } from './demo'
import { type Outline, outlineOf } from './outline'

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

/** Everything published of the wiring of the demo scenes. */
export const wiringFigures = new Map([
  ...named('wiring', (patch) => wiringAnswer(patch, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))),
  ...named('ways', waysOf),
])
/** Everything published of their levels. */
export const levelFigures = new Map([
  ...named('levels', (patch) => levelsAnswer(patch, levelsOfPatch(patch, shelf))),
  ...named('beside levels', besideLevels),
])
/** What is said of usual places for a microphone in each of them. */
export const placeFigures = new Map(
  named('places', ({ brief }) => brief.sources.map(({ id }) => candidatePlaces(brief, id))),
)
