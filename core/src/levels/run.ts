import type { CeilingShape, Patch, Shelf, Source } from '../model'
import { powerDb, sineEquivalentPeakDb } from '../units'
import { type At, type Flow, flowAfter, noisePower, pauseGainDb } from './effect'
import type { TrackAim } from './window'
import { graphOf } from './graph'
import { controlsThatCount } from './linked-gain'
import type { Domain, End, Graph, Node, Origin } from './nodes'

/** A limit at a point, in its own unit and as the level at the source at which the loudest peak would meet it. */
export interface Ceiling {
  at: 'input' | 'output'
  levelDb: number
  shape: CeilingShape
  /** Room between the loudest peak and the ceiling; negative when it is passed. */
  headroomDb: number
  /** The ceiling divided by the gain from the source: a sine of this level at the source would meet it. */
  atSourceDb: number
}

export interface Moments {
  quietest: number
  typical: number
  loudest: number
}

/** Everything about one place of a run. Levels are in the unit of the domain unless they say `atSource`. */
export interface Point {
  node: string
  part: string
  partName: string
  name: string
  kind: Node['kind']
  domain: Domain
  controls: string[]
  rmsDb: Moments
  peakDb: Moments
  gainFromSourceDb: number
  /** Noise of the boxes so far, dB(A), and with the noise of the place. */
  noiseDb: number
  noiseWithPlaceDb: number
  /** The same referred to the source. */
  noiseAtSourceDb: number
  /** What this point itself adds, referred to the source; -Infinity for nothing. */
  ownNoiseAtSourceDb: number
  /** What the noise rises to, referred to the typical voice, once automatic gain has opened in a pause. */
  pauseNoiseAtSourceDb: number
  /** Level at which the other channels hold linked automatic gain in a pause; undefined where nothing is linked. */
  heldDb?: number
  ceilings: Ceiling[]
}

/** Part of the noise at the end of a run. */
export interface NoiseShare {
  node: string
  partName: string
  name: string
  atSourceDb: number
  /** Share of the power of all the boxes, 0 to 1. */
  share: number
}

/** One source on its way to one recording or pair of ears. */
export interface Run {
  id: string
  source: Source
  unit: Origin['unit']
  /** The first box, where the source enters. */
  entry: { part: string; name: string }
  end: {
    box: string
    boxName: string
    kind: 'recording' | 'listen'
    track: string
    name: string
    gearKind: string
    aim: TrackAim
  }
  points: Point[]
  /** Sound pressure or level of the source where it enters. */
  atSource: Moments & { peak: number; placeNoise: number; echo: number; wind: number }
  peakDb: number
  typicalDb: number
  noiseDb: number
  noiseWithPlaceDb: number
  /** Typical level over the noise of the boxes, and over that and the place together. */
  overBoxesDb: number
  speechToNoiseDb: number
  /** Rise of the noise in a pause under automatic gain, dB. */
  pauseRiseDb: number
  shares: NoiseShare[]
  /** Which way up the source arrives. */
  sign: 1 | -1
  /** The ceiling met first by the loudest moment; undefined when there is none at all. */
  tightest: { point: number; ceiling: Ceiling } | undefined
}

export interface Levels {
  runs: Run[]
  /** For each control (`part.control`) the runs that it changes. */
  reach: Record<string, string[]>
  assumptions: string[]
}

/** Every run of a patch with its present settings. The patch must have passed `checkPatch`. */
export function levelsOfPatch(patch: Patch, shelf: Shelf): Levels {
  const graph = graphOf(patch, shelf)
  return levelsOfGraph(graph, (key) => graph.settings.get(key)!)
}

/** The same on a compiled graph, with settings given from outside. */
export function levelsOfGraph(graph: Graph, at: At): Levels {
  const known: NoiseByNode = new Map()
  const paths = pathsOf(graph)
  const runs = numbered(paths.map((path) => runAlong(graph, path, at, known)))
  const reach: Record<string, string[]> = Object.fromEntries(
    [...graph.settings.keys()].map((key) => [key, []]),
  )
  for (const [index, { nodes }] of paths.entries())
    for (const key of new Set(nodes.flatMap((node) => controlsThatCount(graph.nodes[node]!, at))))
      reach[key]?.push(runs[index]!.id)
  return { runs, reach, assumptions: graph.assumptions }
}

/** One source may take several ways to one end, as both sides of a player into one mix: ids stay apart. */
function numbered(runs: Run[]): Run[] {
  const seen = new Map<string, number>()
  for (const run of runs) {
    const count = (seen.get(run.id) ?? 0) + 1
    seen.set(run.id, count)
    if (count > 1) run.id += `#${count}`
  }
  return runs
}

/** A way from an origin to an end, as node indices. */
export interface Path {
  origin: Origin
  end: End
  nodes: number[]
}

/** Every way from every source to every recording and listening point. */
export function pathsOf(graph: Graph): Path[] {
  return graph.ends.flatMap((end) =>
    waysTo(graph, end.node).flatMap((nodes) =>
      graph.origins.filter(({ node }) => node === nodes[0]).map((origin) => ({ origin, end, nodes })),
    ),
  )
}

function waysTo(graph: Graph, end: number): number[][] {
  const ways: number[][] = []
  const back = (index: number, behind: readonly number[]): void => {
    const way = [...behind, index]
    let { feeds } = graph.nodes[index]!
    // a row of single feeds needs no branching
    while (feeds.length === 1) {
      way.push(feeds[0]!)
      feeds = graph.nodes[feeds[0]!]!.feeds
    }
    if (feeds.length === 0) ways.push(way.reverse())
    else for (const feed of feeds) back(feed, way)
  }
  back(end, [])
  return ways
}

/** Where the peaks of an end belong; ears have no window. */
export const aimOf = ({ stage }: End): TrackAim =>
  stage.kind === 'recording' ? stage : { floating: true, lowerDb: 0 }

export const flowOf = (origin: Origin): Flow => ({
  quietestDb: origin.quietestDb,
  typicalDb: origin.typicalDb,
  loudestDb: origin.loudestDb,
  crestDb: origin.source.crestDb,
  sourceOhm: 0,
  source: origin.source.id,
})

function runAlong(graph: Graph, { origin, end, nodes }: Path, at: At, known: NoiseByNode): Run {
  let flow = flowOf(origin)
  // noise powers are kept referred to the source, so that they only ever add along the run
  const noises: { node: Node; power: number }[] = []
  let placePower = noisePower(origin.placeNoiseDb)
  let boxPower = 0
  let pauseRiseDb = 0
  const points: Point[] = []
  let tightest: Run['tightest']

  nodes.forEach((index, step) => {
    const node = graph.nodes[index]!
    const before = boxPower
    const gainBefore = flow.typicalDb - origin.typicalDb
    const addNoise = (from: Node, levelDb: number, gainDb: number) => {
      if (levelDb === -Infinity) return
      const power = noisePower(levelDb - gainDb)
      const known = noises.find((each) => each.node === from)
      if (known) known.power += power
      else noises.push({ node: from, power })
      boxPower += power
    }
    if (node.kind === 'sum')
      for (const feed of node.feeds)
        if (feed !== nodes[step - 1])
          for (const [from, power] of noiseAt(graph, feed, at, known))
            // what a neighbour's microphone hears of the place is the place's, not the box's
            if (from.kind === 'origin') placePower += power / noisePower(gainBefore)
            else addNoise(from, powerDb(power), gainBefore)
    const effect = node.effect(flow, at)
    const ceilings: Ceiling[] = []
    const ceil = (place: Ceiling['at'], levelDb: number, peakDb: number, gainDb: number) => {
      if (levelDb === Infinity) return
      const ceiling: Ceiling = {
        at: place,
        levelDb,
        shape: effect.shape,
        headroomDb: levelDb - peakDb,
        atSourceDb: levelDb - gainDb,
      }
      ceilings.push(ceiling)
      if (!tightest || ceiling.headroomDb < tightest.ceiling.headroomDb) tightest = { point: step, ceiling }
    }
    const peak = (each: Flow) => sineEquivalentPeakDb(each.loudestDb, each.crestDb)
    const loudestGain = (each: Flow) => each.loudestDb - origin.loudestDb
    ceil('input', effect.inputCeilingDb, peak(flow), loudestGain(flow))
    addNoise(node, effect.inputNoiseDb, gainBefore)
    const inPause = pauseGainDb(
      node.stage,
      node.part,
      at,
      Math.max(
        (boxPower + placePower) * noisePower(gainBefore + pauseRiseDb),
        noisePower(node.heldDb?.(at) ?? -Infinity),
      ),
    )
    if (inPause !== undefined) pauseRiseDb += inPause - effect.typicalGainDb
    flow = flowAfter(flow, effect)
    const gainDb = flow.typicalDb - origin.typicalDb
    addNoise(node, effect.outputNoiseDb, gainDb)
    ceil('output', effect.outputCeilingDb, peak(flow), loudestGain(flow))
    const moments = (change: number): Moments => ({
      quietest: flow.quietestDb + change,
      typical: flow.typicalDb + change,
      loudest: flow.loudestDb + change,
    })
    points.push({
      node: node.id,
      part: node.part,
      partName: node.partName,
      name: node.name,
      kind: node.kind,
      domain: node.domain,
      controls: node.own ?? node.controls,
      rmsDb: moments(0),
      peakDb: moments(sineEquivalentPeakDb(0, flow.crestDb)),
      gainFromSourceDb: gainDb,
      noiseDb: powerDb(boxPower) + gainDb,
      noiseWithPlaceDb: powerDb(boxPower + placePower) + gainDb,
      noiseAtSourceDb: powerDb(boxPower),
      ownNoiseAtSourceDb: powerDb(boxPower - before),
      pauseNoiseAtSourceDb: powerDb(boxPower + placePower) + pauseRiseDb,
      heldDb: node.heldDb?.(at),
      ceilings,
    })
  })

  const gainDb = flow.typicalDb - origin.typicalDb
  const peakDb = sineEquivalentPeakDb(flow.loudestDb, flow.crestDb)
  const first = graph.nodes[nodes[0]!]!
  const last = graph.nodes[end.node]!
  const track = end.stage.kind === 'recording' ? end.stage.track : last.id
  return {
    id: `${origin.source.id}>${nodes.length > 1 ? first.part : end.box}>${end.box}.${track}`,
    source: origin.source,
    unit: origin.unit,
    entry: { part: first.part, name: first.partName },
    end: {
      box: end.box,
      boxName: last.partName,
      kind: end.stage.kind,
      track,
      name: end.stage.name,
      gearKind: end.gear.kind,
      aim: aimOf(end),
    },
    points,
    atSource: {
      quietest: origin.quietestDb,
      typical: origin.typicalDb,
      loudest: origin.loudestDb,
      peak: sineEquivalentPeakDb(origin.loudestDb, origin.source.crestDb),
      placeNoise: origin.placeNoiseDb,
      echo: origin.echoDb,
      wind: origin.windDb,
    },
    peakDb,
    typicalDb: flow.typicalDb,
    noiseDb: powerDb(boxPower) + gainDb,
    noiseWithPlaceDb: powerDb(boxPower + placePower) + gainDb,
    overBoxesDb: origin.typicalDb - powerDb(boxPower),
    speechToNoiseDb: origin.typicalDb - powerDb(boxPower + placePower),
    pauseRiseDb,
    sign: nodes.reduce((sign, index) => sign * (graph.nodes[index]!.sign ?? 1), 1) < 0 ? -1 : 1,
    shares: noises
      .map(({ node, power }) => ({
        node: node.id,
        partName: node.partName,
        name: node.name,
        atSourceDb: powerDb(power),
        share: power / boxPower,
      }))
      .sort((one, other) => other.share - one.share),
    tightest,
  }
}

/** Noise upstream of nodes, worked out once for one setting of the controls. */
type NoiseByNode = Map<number, ReadonlyMap<Node, number>>

/**
 * Noise of everything upstream of a node in its own unit, by the node that makes it: what a neighbour on a mix
 * brings in. Automatic gain there is taken at its setting for silence.
 *
 * @param known what was worked out before for the same setting; added to
 */
export function noiseAt(
  graph: Graph,
  index: number,
  at: At,
  known: NoiseByNode = new Map(),
): ReadonlyMap<Node, number> {
  const before = known.get(index)
  if (before) return before
  const node = graph.nodes[index]!
  const noises = new Map<Node, number>()
  for (const feed of node.feeds)
    for (const [from, power] of noiseAt(graph, feed, at, known))
      noises.set(from, (noises.get(from) ?? 0) + power)
  for (const origin of graph.origins)
    if (origin.node === index && origin.placeNoiseDb > -Infinity)
      noises.set(node, noisePower(origin.placeNoiseDb))
  const silence: Flow = { quietestDb: -200, typicalDb: -200, loudestDb: -200, crestDb: 12, sourceOhm: 150 }
  const effect = node.effect(silence, at)
  const add = (levelDb: number) => {
    if (levelDb > -Infinity) noises.set(node, (noises.get(node) ?? 0) + noisePower(levelDb))
  }
  add(effect.inputNoiseDb)
  const gain = noisePower(effect.typicalGainDb)
  for (const [from, power] of noises) noises.set(from, power * gain)
  add(effect.outputNoiseDb)
  known.set(index, noises)
  return noises
}
