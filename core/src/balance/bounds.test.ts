import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asSet, chainOf, graphOf, tableOf } from '../chain'
import { applyEdits } from '../edits'
import { type Patch, positionsOf } from '../model'
import { scene, scenes, shelf } from '../tests/demo'
import { cases } from '../tests/form'
import { oddPatch } from '../tests/odd-patches'
import { aimsOf, scoreOf } from './aims'
import { freeControls } from './balance'
import { boundsOn } from './bounds'
import type { Score } from './objective'
import { Positions } from './positions'
import { reducedGraph } from './reduced'

const automatic = (patch: Patch, ...cameras: string[]): Patch =>
  applyEdits(
    patch,
    cameras.map((part) => ({ kind: 'set control', part, control: 'gain-mode', position: 'auto' }) as const),
    shelf,
  )

/** Patches that a search branches over: mixes, ducks, automatic gain alone, linked and behind a mix, delays. */
const patches = [
  scene('5-words-over-the-yard'),
  automatic(scene('5-words-over-the-yard'), 'camera'),
  scene('2-the-pour'),
  automatic(scene('1-the-founder-at-the-bench'), 'camera'),
  scene('7-three-at-the-mould'),
]

/** A patch as a search sees it. */
function searched(patch: Patch, togetherMost: number) {
  const graph = graphOf(patch, shelf)
  const free = freeControls(graph, patch, shelf)
  const reduced = reducedGraph(
    graph,
    new Map(free.map(({ key, control }) => [key, positionsOf(control)])),
    togetherMost,
  )
  return {
    graph: reduced,
    positions: new Positions(reduced, free, togetherMost),
    aims: aimsOf(reduced, patch.plan),
  }
}

/** Asks of bounds over generated regions, and of choices inside them, whether any choice is worth more than its bound. */
function expectBounded(patch: Patch, togetherMost: number, seed: number): void {
  const { graph, positions, aims } = searched(patch, togetherMost)
  const boundOf = boundsOn(graph, aims, positions)
  const part = fc.double({ min: 0, max: 1, noNaN: true })
  const cuts = positions.knobs.map(({ stops }) =>
    fc.tuple(part, part, part).map(([start, width, at]) => {
      const low = Math.floor(start * (stops.length - 1))
      const high = Math.min(stops.length - 1, low + Math.floor(width ** 3 * stops.length))
      return { low, high, at: low + Math.round(at * (high - low)) }
    }),
  )
  fc.assert(
    fc.property(fc.tuple(...cuts), (knobs) => {
      const region = {
        low: Int32Array.from(knobs, ({ low }) => low),
        high: Int32Array.from(knobs, ({ high }) => high),
      }
      const choice = Int32Array.from(knobs, ({ at }) => at)
      const bound = boundOf(region)
      const score = scoreOf(chainOf(graph, positions.readings(choice)), aims, positions.changes(choice))
      const atMost = (ones: readonly number[], others: readonly number[]) =>
        ones.forEach((one, index) => expect(one).toBeLessThanOrEqual(others[index]! + 1e-6))
      atMost(bound.overDb, score.overDb)
      atMost(bound.outsideDb, score.outsideDb)
      atMost(score.speechToNoiseDb, bound.speechToNoiseDb)
      atMost(score.overBoxesDb, bound.overBoxesDb)
      atMost([score.headroomDb, bound.changes], [bound.headroomDb, score.changes])
    }),
    { numRuns: cases(400, 30), seed },
  )
}

describe('a chain in fewer nodes', () => {
  it.each(scenes.map((each) => [each.name, each] as const))(
    'asks for the same of each recording: %s',
    (_, patch) => {
      const graph = graphOf(patch, shelf)
      const moved = new Map(
        freeControls(graph, patch, shelf).map(({ key, control }) => [key, positionsOf(control)]),
      )
      const sourcesIn = (each: typeof graph) =>
        aimsOf(each, patch.plan).recordings.map(({ sources }) =>
          sources.map((source) => tableOf(each).sources[source]!.source.id).sort(),
        )
      for (const most of [0, 2048])
        // of recordings that are twins one is left
        for (const sources of sourcesIn(reducedGraph(graph, moved, most)))
          expect(sourcesIn(graph)).toContainEqual(sources)
    },
  )
})

/** Halves one knob after the other, now and then from the whole again: what a search does. */
function expectFresh(patch: Patch, togetherMost: number, seed: number): void {
  const { graph, positions, aims } = searched(patch, togetherMost)
  const boundOf = boundsOn(graph, aims, positions)
  const steps = fc.sample(fc.tuple(fc.nat(), fc.boolean(), fc.nat(7)), { seed, numRuns: cases(400, 20) })
  let region = positions.whole()
  for (const [at, upper, begin] of steps) {
    if (begin === 0) region = positions.whole()
    const knob = at % positions.knobs.length
    const { low, high } = { low: region.low.slice(), high: region.high.slice() }
    const middle = (low[knob]! + high[knob]!) >> 1
    if (upper) low[knob] = Math.min(high[knob]!, middle + 1)
    else high[knob] = middle
    region = { low, high }
    expect(boundOf(region)).toEqual(boundsOn(graph, aims, positions)(region))
  }
}

/** The figures of a score that twins do not change: one of them stands for both in the chain in fewer nodes. */
const worstOf = ({ overDb, outsideDb, speechToNoiseDb, overBoxesDb, headroomDb }: Score): number[] => [
  overDb[0] ?? 0,
  outsideDb[0] ?? 0,
  speechToNoiseDb[0] ?? 0,
  overBoxesDb[0] ?? 0,
  headroomDb,
]

it('comes to the same in fewer nodes, wherever its controls stand', () => {
  const odd = fc.sample(oddPatch, { seed: 5, numRuns: cases(200, 5) })
  for (const [seed, patch] of [...scenes, ...odd].entries()) {
    const graph = graphOf(patch, shelf)
    const aims = aimsOf(graph, patch.plan)
    for (const most of [0, 2048]) {
      const reduced = searched(patch, most)
      const { knobs } = reduced.positions
      const stops = fc.tuple(...knobs.map(({ stops: all }) => fc.nat(all.length - 1)))
      for (const choice of fc.sample(stops, { seed, numRuns: 3 }).map((each) => Int32Array.from(each))) {
        const settings = new Map([...graph.settings, ...reduced.positions.named(choice)])
        const readings = graph.nodes.map(({ read }) => read(asSet({ settings })))
        const whole = worstOf(scoreOf(chainOf(graph, readings), aims))
        const fewer = worstOf(
          scoreOf(chainOf(reduced.graph, reduced.positions.readings(choice)), reduced.aims),
        )
        whole.forEach((figure, at) => {
          if (figure !== fewer[at]) expect(fewer[at], `${patch.name}, ${most}`).toBeCloseTo(figure, 6)
        })
      }
    }
  }
})

describe('bounds over regions of positions', () => {
  it.each(patches.map((patch, index) => [index, patch] as const))(
    'are those that a region has by itself, whatever was asked before (%i)',
    (index, patch) => {
      expectFresh(patch, 0, index)
      expectFresh(patch, 2048, index + 100)
    },
  )
  it.each(patches.map((patch, index) => [index, patch] as const))(
    'are never passed by a choice inside (%i)',
    (index, patch) => {
      expectBounded(patch, 0, index)
      expectBounded(patch, 2048, index + 100)
    },
  )
  it('of one choice are what it is worth, or nearly so', () => {
    const patch = scene('5-words-over-the-yard')
    const graph = graphOf(patch, shelf)
    const positions = new Positions(graph, freeControls(graph, patch, shelf))
    const aims = aimsOf(graph, patch.plan)
    const score = scoreOf(chainOf(graph, positions.readings(positions.now)), aims)
    const bound = boundsOn(graph, aims, positions)({ low: positions.now, high: positions.now })
    score.speechToNoiseDb.forEach((each, index) => expect(bound.speechToNoiseDb[index]).toBeCloseTo(each, 3))
    // peaks that must meet leave automatic gain less time to come down than a bound reckons with
    expect(bound.headroomDb).toBeGreaterThan(score.headroomDb - 0.001)
    expect(bound.headroomDb).toBeLessThan(score.headroomDb + 0.5)
  })
})
