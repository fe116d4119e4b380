import { type Chain, neverPauses, type Node, placePeak, soundingPower, type Walked } from '../chain'
import { amplitudeDb, powerDb, sineEquivalentPeakDb } from '../units'
import { type ChainReader, floorDb, type Heard } from './chain-reader'
import { type Ceiling, type Moments, type Point, type Run, tighter } from './run'

/** Everything about the places that a source passes, by nodes. */
export function pointsAlong(reader: ChainReader, heard: Heard, nodes: readonly number[]): Point[] {
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

/** The ceiling that leaves the least headroom. */
export function tightestOf(points: readonly Point[]): Run['tightest'] {
  let found: Run['tightest']
  points.forEach(({ ceilings }, point) => {
    for (const ceiling of ceilings)
      if (!found || tighter(found.ceiling, ceiling) === ceiling) found = { point, ceiling }
  })
  return found
}

/** Level that holds a linked gain in a pause, from sources on the other channels that never pause. */
function heldDb({ graph, readings, table }: Chain, node: Node, pause: Walked): number | undefined {
  if (!node.linked || !readings[node.index]!.follows) return undefined
  const sources = table.sources.map(({ source }) => (neverPauses(source) ? 1 : 0))
  const held = node.linked.map((other) => {
    const own = graph.nodes[other]!
    return soundingPower(pause.before[own.index]!, table, { sources, placeAtLoudest: false })
  })
  return powerDb(Math.max(...held))
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

/** Sum of a source's paths where they meet, relative to the loudest of them alone, dB. */
function joinedDb(reader: ChainReader, { source, typical }: Heard, node: Node): number | undefined {
  if (node.kind !== 'sum') return undefined
  const ways = node.feeds.map((feed) => reader.sourceDb(typical, source, feed)).filter((db) => db > floorDb)
  if (ways.length < 2) return undefined
  return reader.sourceDb(typical, source, node.index) - Math.max(...ways)
}
