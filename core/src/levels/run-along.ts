import type { Chain, End } from '../chain'
import { lastOf, valueOf } from '../model'
import { sineEquivalentPeakDb } from '../units'
import { ChainReader, type Heard } from './chain-reader'
import { entryShare, ratiosAt, sharesAt, waysAt } from './run-end'
import type { Path } from './paths'
import { pointsAlong, tightestOf } from './run-points'
import type { Run } from './run'
import type { TrackAim } from './window'

/** Where the peaks of an end belong; ears have no window. */
export function aimOf({ stage, gear }: End): TrackAim {
  if (stage.kind !== 'recording') return { floating: true, lowerDb: 0 }
  const { floating, lowerDb } = stage
  const marks = gear.meter?.marks ?? []
  const mark = marks[1] ?? marks[0]
  return { floating, lowerDb, ...(mark && { markDbfs: valueOf(mark.atDbfs, 0) }) }
}

/** One source on its way to one end. */
export function runAlong(reader: ChainReader, path: Path): Run {
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

/** Whether a switch of a node, or a knob, lets nothing through. */
export const isSwitchedOff = ({ graph, readings }: Chain, index: number): boolean =>
  graph.nodes[index]!.controls.length > 0 && readings[index]!.isOff

/** Why a node lets nothing through: its link, its radio or its own switch. */
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
