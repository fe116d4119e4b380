import {
  type PositionOf,
  type Chain,
  chainOf,
  type Domain,
  type End,
  type Graph,
  graphOf,
  neverPauses,
  type Node,
  noisePowers,
  type Origin,
  placePeak,
  powerOfWays,
  soundingPower,
  type Walked,
  waysOfSource,
  asSet,
} from '../chain'
import { withSpill } from './spill'
import type { Assumption, CircuitFinding } from '../findings'
import { type CeilingShape, type Patch, type Shelf, type Source, lastOf } from '../model'
import { amplitudeDb, powerDb, sineEquivalentPeakDb } from '../units'
import type { TrackAim } from './window'
import { pathsOf, type Path } from './paths'

/** A limit at a point, in its own unit and as the level at the source that would meet it. */
export interface Ceiling {
  at: 'input' | 'output'
  levelDb: number
  shape: CeilingShape
  /** Room between the largest peak of all that sounds there and the ceiling; negative when it is passed. */
  headroomDb: number
  /** The ceiling divided by the gain from the source: a sine of this level at the source would meet it alone. */
  atSourceDb: number
  /** It lies behind automatic gain: what meets it is the first word after a pause. */
  onset: boolean
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
  /** Of this source alone. */
  rmsDb: Moments
  peakDb: Moments
  /** The largest peak of all that sounds here: every source, and the place. */
  wholePeakDb: number
  /** The largest peak of the place alone, at its loudest. */
  placePeakDb: number
  gainFromSourceDb: number
  /** Noise of the boxes so far, dB(A), and with the noise of the place, while the source sounds. */
  noiseDb: number
  noiseWithPlaceDb: number
  /** The same referred to the source. */
  noiseAtSourceDb: number
  /** What this point itself adds, referred to the source; -Infinity for nothing. */
  ownNoiseAtSourceDb: number
  /** All noise in a pause, referred to the typical voice: what automatic gain has lifted it to. */
  pauseNoiseAtSourceDb: number
  /** Level at which the other channels hold linked automatic gain in a pause; undefined where nothing is linked. */
  heldDb?: number
  /** What automatic gain that acts here is set to, dB: under the voice, and what a long pause and the loudest moment ask for. */
  automatic?: { spokenDb: number; pauseDb: number; loudestDb: number }
  /** Where several ways of the source meet: what they come to over the loudest of them, dB. */
  joinedDb?: number
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
  /** The largest peak of the recording, whatever sounds in it. */
  peakDb: number
  typicalDb: number
  /** Noise of the boxes, and with that of the place, as it is in a pause. */
  noiseDb: number
  noiseWithPlaceDb: number
  /** Typical level over the noise of the boxes, and over that and the place together: over what is heard in its pauses. */
  overBoxesDb: number
  speechToNoiseDb: number
  /** Rise of the noise in a pause under automatic gain, dB. */
  pauseRiseDb: number
  shares: NoiseShare[]
  /** What arrives by the box that the run begins at, in the unit of the end, and which way up. */
  byEntry: { db: number; sign: 1 | -1 }
  /** Ways by which the source reaches the end, where there are several: each by its level and how much later it comes. */
  ways: { db: number; laterMs: number; sign: 1 | -1 }[]
  /** Why nothing arrives, where the wiring or the radio lets nothing through. */
  stop?: { finding: CircuitFinding; part: string; partName: string }
  /** The source only spills into this recording; another, by its name, is meant for it and holds it better. */
  spill?: { heldBy: string }
  /** The ceiling met first by the loudest moment; undefined when there is none at all. */
  tightest: { point: number; ceiling: Ceiling } | undefined
}

export interface Levels {
  runs: Run[]
  /** For each control (`part.control`) the runs that it changes. */
  reach: Record<string, string[]>
  assumptions: Assumption[]
}

/** Every run of a patch with its present settings. The patch must have passed `checkPatch`. */
export function levelsOfPatch(patch: Patch, shelf: Shelf): Levels {
  const graph = graphOf(patch, shelf)
  return levelsOfGraph(graph, asSet(graph))
}

/** The same on a compiled graph, with settings given from outside. */
export function levelsOfGraph(graph: Graph, at: PositionOf): Levels {
  const chain = chainOf(
    graph,
    graph.nodes.map(({ read }) => read(at)),
  )
  const reader = new ChainReader(chain)
  const { paths, runs } = heardAlong(reader, pathsOf(graph))
  const reach: Record<string, string[]> = Object.fromEntries(
    [...graph.settings.keys()].map((key) => [key, []]),
  )
  for (const [index, { nodes }] of paths.entries())
    for (const key of new Set(nodes.flatMap((node) => controlsThatCount(chain, graph.nodes[node]!))))
      reach[key]?.push(runs[index]!.id)
  return { runs: withSpill(runs), reach, assumptions: graph.assumptions }
}

/**
 * Runs along paths. One that a switch has turned away is none where the same source arrives there by another way, nor
 * where another arrives instead and the box records this one beside it: that is how a switch shares out its tracks.
 */
function heardAlong(reader: ChainReader, all: readonly Path[]): { paths: Path[]; runs: Run[] } {
  const found = all.map((path) => ({ path, run: runAlong(reader, path) }))
  const alive = found.flatMap(({ path, run }) => (run.stop ? [] : [path]))
  const arrives = new Set(alive.map(({ origin, end }) => `${origin.source.id} ${end.node}`))
  const reached = new Set(alive.map(({ end }) => end.node))
  const held = new Set(
    alive.flatMap(({ origin, end }) =>
      end.stage.kind === 'recording' ? [`${origin.source.id} ${end.box}`] : [],
    ),
  )
  const isElsewhere = ({ origin: { source }, end }: Path) =>
    arrives.has(`${source.id} ${end.node}`) || (reached.has(end.node) && held.has(`${source.id} ${end.box}`))
  const kept = found.filter(
    ({ path }) => !isElsewhere(path) || !path.nodes.some((node) => isSwitchedOff(reader.chain, node)),
  )
  return { paths: kept.map(({ path }) => path), runs: numbered(kept.map(({ run }) => run)) }
}

/** Controls that change what a node does as things stand: those of other channels only while its gain turns with theirs. */
function controlsThatCount({ graph, readings }: Chain, node: Node): string[] {
  if (!node.linked || !readings[node.index]!.follows) return node.controls
  return [...node.controls, ...node.linked.flatMap((other) => controlsUpTo(graph, other))]
}

const controlsUpTo = (graph: Graph, index: number): string[] => {
  const { controls, feeds } = graph.nodes[index]!
  return [...controls, ...feeds.flatMap((feed) => controlsUpTo(graph, feed))]
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

/** Where the peaks of an end belong; ears have no window. */
export const aimOf = ({ stage }: End): TrackAim =>
  stage.kind === 'recording' ? stage : { floating: true, lowerDb: 0 }

/** A level that is no level any more: what is left of a sound that cancels, or behind a dead link. */
const floorDb = -200
const dbOf = (power: number): number => Math.max(floorDb, powerDb(power))

/** Reads levels and noises off a chain, each worked out once. */
class ChainReader {
  private readonly powers = new Map<Walked, Map<number, Float64Array>>()
  private readonly noises = new Map<Walked, { boxes: Float64Array; place: Float64Array }>()

  constructor(readonly chain: Chain) {}

  /** Level of a source after a node at its typical level in one situation, dB. */
  sourceDb(walked: Walked, source: number, node: number): number {
    const { table } = this.chain
    const bySource = this.powers.get(walked) ?? new Map<number, Float64Array>()
    this.powers.set(walked, bySource)
    const known = bySource.get(source) ?? new Float64Array(walked.after.length).fill(Number.NaN)
    bySource.set(source, known)
    if (Number.isNaN(known[node]!))
      known[node] = dbOf(powerOfWays(waysOfSource(walked.after[node]!, table, source)))
    return known[node]!
  }

  noisesAfter(walked: Walked, node: number): { boxes: number; place: number } {
    const { table } = this.chain
    let known = this.noises.get(walked)
    if (!known) {
      const empty = () => new Float64Array(walked.after.length).fill(Number.NaN)
      known = { boxes: empty(), place: empty() }
      this.noises.set(walked, known)
    }
    if (Number.isNaN(known.boxes[node]!)) {
      const { boxes, place } = noisePowers(walked.after[node]!, table)
      known.boxes[node] = boxes
      known.place[node] = place
    }
    return { boxes: known.boxes[node]!, place: known.place[node]! }
  }
}

/** One source in the situations that a run tells of. */
interface Heard {
  origin: Origin
  /** Its place in the list of sources. */
  source: number
  typical: Walked
  pause: Walked
  quietest: Walked
  loudest: Walked
}

function runAlong(reader: ChainReader, path: Path): Run {
  const { chain } = reader
  const { origin, end, nodes } = path
  const source = chain.table.sources.findIndex((each) => each.source.id === origin.source.id)
  const heard: Heard = {
    origin,
    source,
    typical: chain.typical[source]!,
    pause: chain.pause[source]!,
    quietest: chain.at(source, 'quietest'),
    loudest: chain.at(source, 'loudest'),
  }
  const points = pointsAlong(reader, heard, nodes)
  const first = chain.graph.nodes[nodes[0]!]!
  const last = chain.graph.nodes[end.node]!
  const lastPoint = lastOf(points)
  const track = end.stage.kind === 'recording' ? end.stage.track : last.id
  const entry = chain.graph.entryNoises.find(({ node }) => node === origin.node)
  const ratios = ratiosAt(reader, heard, end.node)
  const stopping = nodes.flatMap((index) => stopAt(chain, index) ?? [])[0]
  const ways = waysAt(reader, heard, end.node)
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
      placeNoise: entry?.levelDb ?? -Infinity,
      echo: origin.echoDb,
      wind: entry?.windDb ?? -Infinity,
    },
    peakDb: lastPoint.wholePeakDb,
    typicalDb: lastPoint.rmsDb.typical,
    ...ratios,
    shares: sharesAt(reader, heard, end.node),
    byEntry: entryShare(chain, heard, end.node, first.part),
    ways,
    stop: stopping,
    tightest: tightestOf(points),
  }
}

function pointsAlong(reader: ChainReader, heard: Heard, nodes: readonly number[]): Point[] {
  const { chain } = reader
  const { origin, source, typical, pause } = heard
  const crestOver = sineEquivalentPeakDb(0, origin.source.crestDb)
  let noiseBefore = 0
  let before: Moments = {
    quietest: origin.quietestDb,
    typical: origin.typicalDb,
    loudest: origin.loudestDb,
  }
  let automatic = false
  return nodes.map((index): Point => {
    const node = chain.graph.nodes[index]!
    const onset = automatic
    automatic ||= chain.readings[index]!.follows?.kind === 'agc'
    const rmsDb: Moments = {
      typical: reader.sourceDb(typical, source, index),
      quietest: reader.sourceDb(heard.quietest, source, index) + origin.quietestDb - origin.typicalDb,
      loudest: reader.sourceDb(heard.loudest, source, index) + origin.loudestDb - origin.typicalDb,
    }
    const gainDb = rmsDb.typical - origin.typicalDb
    const { boxes, place } = reader.noisesAfter(typical, index)
    const inPause = reader.noisesAfter(pause, index)
    const noiseAtSource = boxes / 10 ** (gainDb / 10)
    const ownNoise = Math.max(0, noiseAtSource - noiseBefore)
    noiseBefore = Math.max(noiseBefore, noiseAtSource)
    const point: Point = {
      node: node.id,
      part: node.part,
      partName: node.partName,
      name: node.name,
      kind: node.kind,
      domain: node.domain,
      controls: node.controls,
      rmsDb,
      peakDb: {
        quietest: rmsDb.quietest + crestOver,
        typical: rmsDb.typical + crestOver,
        loudest: rmsDb.loudest + crestOver,
      },
      wholePeakDb: Math.max(floorDb, amplitudeDb(chain.peakAfter(index))),
      placePeakDb: Math.max(floorDb, amplitudeDb(placePeak(chain.onset.after[index]!, chain.table, true))),
      gainFromSourceDb: gainDb,
      noiseDb: powerDb(boxes),
      noiseWithPlaceDb: powerDb(boxes + place),
      noiseAtSourceDb: powerDb(boxes) - gainDb,
      ownNoiseAtSourceDb: powerDb(ownNoise),
      pauseNoiseAtSourceDb: powerDb(inPause.boxes + inPause.place) - gainDb,
      heldDb: heldDb(chain, node, pause),
      automatic: automaticAt(chain, heard, index),
      joinedDb: joinedDb(reader, heard, node),
      ceilings: ceilingsAt(chain, index, onset, {
        before: before.loudest - origin.loudestDb,
        after: rmsDb.loudest - origin.loudestDb,
      }),
    }
    before = rmsDb
    return point
  })
}

const isSwitchedOff = ({ graph, readings }: Chain, index: number): boolean =>
  graph.nodes[index]!.controls.length > 0 && readings[index]!.isOff

/** What lets nothing through at a node: its link, its radio, or a switch of its own. */
function stopAt(chain: Chain, index: number): Run['stop'] {
  const { stop, part, partName, name } = chain.graph.nodes[index]!
  if (stop) return { finding: stop, part, partName }
  if (!isSwitchedOff(chain, index)) return undefined
  return {
    finding: {
      severity: 'dead',
      code: 'switched off',
      subject: { part, where: `${partName}, ${name.toLowerCase()}` },
      figures: { box: partName, stage: name },
    },
    part,
    partName,
  }
}

/** The ceilings of a node, with what reaches them. @param gainDb from the source, before and after it */
function ceilingsAt(
  chain: Chain,
  node: number,
  onset: boolean,
  gainDb: { before: number; after: number },
): Ceiling[] {
  const { inputCeilingDb, outputCeilingDb, shape } = chain.readings[node]!
  return [
    ceilingOf({ at: 'input', levelDb: inputCeilingDb, shape, onset }, chain.peakBefore(node), gainDb.before),
    ceilingOf({ at: 'output', levelDb: outputCeilingDb, shape, onset }, chain.peakAfter(node), gainDb.after),
  ].filter((ceiling) => ceiling !== undefined)
}

function ceilingOf(
  ceiling: Pick<Ceiling, 'at' | 'levelDb' | 'shape' | 'onset'>,
  peak: number,
  gainFromSourceDb: number,
): Ceiling | undefined {
  const { levelDb } = ceiling
  if (levelDb === Infinity) return undefined
  const peakDb = Math.max(floorDb, amplitudeDb(peak))
  return { ...ceiling, headroomDb: levelDb - peakDb, atSourceDb: levelDb - gainFromSourceDb }
}

function tightestOf(points: readonly Point[]): Run['tightest'] {
  let found: Run['tightest']
  points.forEach(({ ceilings }, point) => {
    for (const ceiling of ceilings)
      if (!found || ceiling.headroomDb < found.ceiling.headroomDb) found = { point, ceiling }
  })
  return found
}

/** Level at which what never pauses on the other channels holds a linked gain in a pause. */
function heldDb({ graph, readings, table }: Chain, node: Node, pause: Walked): number | undefined {
  if (!node.linked || !readings[node.index]!.follows) return undefined
  const sources = table.sources.map(({ source }) => (neverPauses(source) ? 1 : 0))
  const held = node.linked.map((other) => {
    const own = graph.nodes[other]!
    return soundingPower(pause.before[own.index]!, table, { sources, placeAtLoudest: false })
  })
  return powerDb(Math.max(...held))
}

/** What a source comes to over the noise of its pauses. */
function ratiosAt(reader: ChainReader, { source, typical, pause }: Heard, node: number) {
  const typicalDb = reader.sourceDb(typical, source, node)
  const { boxes, place } = reader.noisesAfter(pause, node)
  const spoken = reader.noisesAfter(typical, node)
  const rise = powerDb((boxes + place) / (spoken.boxes + spoken.place))
  return {
    noiseDb: powerDb(boxes),
    noiseWithPlaceDb: powerDb(boxes + place),
    overBoxesDb: typicalDb - powerDb(boxes),
    speechToNoiseDb: typicalDb - powerDb(boxes + place),
    pauseRiseDb: Number.isFinite(rise) ? Math.max(0, rise) : 0,
  }
}

/** Who makes the noise that is heard in the pauses, the most first. */
function sharesAt(
  { chain }: ChainReader,
  { source, typical, pause, origin }: Heard,
  end: number,
): NoiseShare[] {
  const { table, graph } = chain
  const mixture = pause.after[end]!
  const powers = new Map<number, number>()
  mixture.emitters.forEach((emitter, way) => {
    if (emitter < table.firstNodeNoise) return
    const node = (emitter - table.firstNodeNoise) >> 1
    powers.set(node, (powers.get(node) ?? 0) + mixture.amplitudes[way]! ** 2)
  })
  const whole = [...powers.values()].reduce((sum, power) => sum + power, 0)
  const gainDb = dbOf(powerOfWays(waysOfSource(typical.after[end]!, table, source))) - origin.typicalDb
  return [...powers]
    .filter(([, power]) => power > 0)
    .map(([index, power]) => ({
      node: graph.nodes[index]!.id,
      partName: graph.nodes[index]!.partName,
      name: graph.nodes[index]!.name,
      atSourceDb: powerDb(power) - gainDb,
      share: power / whole,
    }))
    .sort((one, other) => other.share - one.share)
}

/** The ways by which a source arrives that are apart in time. */
function waysAt({ chain }: ChainReader, { source, typical }: Heard, end: number): Run['ways'] {
  const { amplitudes, delaysS } = waysOfSource(typical.after[end]!, chain.table, source)
  const first = Math.min(...delaysS)
  return amplitudes.map((amplitude, way) => ({
    db: Math.max(floorDb, amplitudeDb(Math.abs(amplitude))),
    laterMs: (delaysS[way]! - first) * 1000,
    sign: amplitude < 0 ? (-1 as const) : (1 as const),
  }))
}

/** What arrives of a source by one box: over all its channels, with their signs. */
function entryShare(
  { graph, table }: Chain,
  { source, typical }: Heard,
  end: number,
  part: string,
): Run['byEntry'] {
  const { emitters, amplitudes } = typical.after[end]!
  let sum = 0
  emitters.forEach((emitter, way) => {
    if (
      emitter < table.firstEntryNoise &&
      table.sourceOfOrigin[emitter] === source &&
      graph.nodes[graph.origins[emitter]!.node]!.part === part
    )
      sum += amplitudes[way]!
  })
  return { db: Math.max(floorDb, amplitudeDb(Math.abs(sum))), sign: sum < 0 ? -1 : 1 }
}

function automaticAt(
  { readings, pauseAskedDb }: Chain,
  { source, typical, loudest }: Heard,
  node: number,
): Point['automatic'] {
  if (readings[node]!.follows?.kind !== 'agc') return undefined
  return {
    spokenDb: typical.followDb[node]!,
    pauseDb: pauseAskedDb[source]![node]!,
    loudestDb: loudest.followDb[node]!,
  }
}

/** What several ways of a source come to where they meet, over the loudest of them alone. */
function joinedDb(reader: ChainReader, { source, typical }: Heard, node: Node): number | undefined {
  if (node.kind !== 'sum') return undefined
  const ways = node.feeds.map((feed) => reader.sourceDb(typical, source, feed)).filter((db) => db > floorDb)
  if (ways.length < 2) return undefined
  return reader.sourceDb(typical, source, node.index) - Math.max(...ways)
}
