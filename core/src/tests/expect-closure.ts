import { expect } from 'vitest'
import { type PositionOf, type Graph, graphOf } from '../chain'
import { levelsOfGraph, type Run } from '../levels'
import { levelsOf, type Patch, type Shelf, type Source, trackKey } from '../model'
import { silentVoice, sineVoice } from '../render'
import { listen, only, rateHz } from './listen'

/** A stage whose gain follows the level answers a steady tone differently: such runs have tests of their own. */
const followsLevel = (graph: Graph, at: PositionOf, run: Run) =>
  run.points.some(({ node }) => graph.nodes.find(({ id }) => id === node)!.read(at).follows !== undefined)

const trackOf = (run: Run) => trackKey(run.end)

/** Peak of the loudest moment over the typical level, as a sine. */
const loudestOver = (source: Source): number => {
  const levels = levelsOf(source)
  return levels.loudest - levels.typical + source.crestDb - 3.01
}

/**
 * Holds what a patch is predicted to do against what it does on samples, each to 0.3 dB: noise of every recording, level
 * of every source on it over all its ways, the level at which the first ceiling on the way is met, and the peak of
 * everything at its loudest together.
 */
export function expectClosure(patch: Patch, on: Shelf): void {
  const graph = graphOf(patch, on)
  const at: PositionOf = (key) => graph.settings.get(key)!
  const levels = levelsOfGraph(graph, at)
  const runs = levels.runs.filter((run) => run.end.kind === 'recording' && !run.stop)
  const steady = runs.filter((run) => !followsLevel(graph, at, run))
  const endOf = (run: Run) =>
    graph.ends.find(
      (end) => end.box === run.end.box && 'track' in end.stage && end.stage.track === run.end.track,
    )!

  const hiss = listen(graph, at, {})
  for (const run of steady)
    expect(Math.abs(hiss.levelDbfs.get(endOf(run))! - run.noiseDb), `noise of ${run.id}`).toBeLessThan(0.3)

  for (const source of patch.brief.sources) {
    const mine = steady.filter((run) => run.source.id === source.id)
    if (mine.length === 0) continue
    const tone = (overDb: number) => ({
      voice: only(source, sineVoice(1000, overDb, rateHz)),
      noise: false,
      frames: 0.4 * rateHz,
    })
    // well under every ceiling
    const quiet = Math.min(
      0,
      ...mine.map(
        ({ tightest, source: each }) => (tightest?.ceiling.headroomDb ?? 0) + loudestOver(each) - 3,
      ),
    )
    const heard = listen(graph, at, tone(quiet))
    // ways apart in time add up by their likeness over a whole voice, which a tone does not tell
    for (const run of mine.filter(({ ways }) => ways.length === 1))
      expect(
        Math.abs(heard.levelDbfs.get(endOf(run))! - quiet - run.typicalDb),
        `level of ${run.id}`,
      ).toBeLessThan(0.3)
    expectOnset(graph, at, source, mine, runs)
  }
}

/** A sine of the peak's level meets the narrowest ceiling just where the source alone would use its headroom up. */
function expectOnset(
  graph: Graph,
  at: PositionOf,
  source: Source,
  mine: readonly Run[],
  all: readonly Run[],
): void {
  // where others sound too, the headroom is that of all together
  const alone = mine.filter((run) => all.every((each) => trackOf(each) !== trackOf(run) || each === run))
  const narrowest = alone.reduce<Run | undefined>(
    (one, other) =>
      (other.tightest?.ceiling.headroomDb ?? Infinity) < (one?.tightest?.ceiling.headroomDb ?? Infinity)
        ? other
        : one,
    undefined,
  )
  const tightest = narrowest?.tightest
  if (!narrowest || !tightest) return
  const point = narrowest.points[tightest.point]!
  // the place takes its share of the room: without it there is as much more
  const own = point.rmsDb.loudest + source.crestDb - 3.01
  const withPlace = point.wholePeakDb
  const onset = tightest.ceiling.headroomDb + (withPlace - own) + loudestOver(source)
  // counted all along the run: where two ceilings are one, the earlier keeps the later from being met
  const along = new Set(narrowest.points.map(({ node }) => node))
  const count = (overDb: number) => {
    const { met } = listen(graph, at, {
      voice: (each) => (each.id === source.id ? sineVoice(1000, overDb, rateHz) : silentVoice),
      noise: false,
      frames: 0.4 * rateHz,
    })
    return [...met].reduce((sum, [node, times]) => sum + (along.has(node.id) ? times : 0), 0)
  }
  expect(count(onset - 0.3), `under the ceiling of ${narrowest.id}`).toBe(0)
  expect(count(onset + 0.3), `over the ceiling of ${narrowest.id}`).toBeGreaterThan(0)
}
