import { type Chain, type End, type Graph, noisePowers, sourcePower, tableOf, asSet } from '../chain'
import { aimOf, type Asked, askedOf, meantWithinDb, outsideDb } from '../levels'
import type { Plan } from '../model'
import { amplitudeDb, powerDb } from '../units'
import { mostFirst, type Score, worstFirst } from './objective'

/** A recording with what the plan asks of it. */
export interface AimedRecording extends Asked {
  end: End
  /** Sources that it is meant for, by their place in the table of the graph. */
  sources: number[]
}

/** Requirements of a plan for a graph, independent of its controls. */
export interface Aims {
  recordings: AimedRecording[]
  /** For each node the recordings whose ceilings it holds, by their place in the list. */
  ceilingsFor: number[][]
  /** Nodes that lead to some recording. */
  leadsToRecording: boolean[]
  /** Headroom that is asked for under every ceiling, dB. */
  marginDb: number
}

export function aimsOf(graph: Graph, plan: Plan): Aims {
  const ends = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  const upstream = ends.map(({ node }) => upstreamOf(graph, node))
  const isAutomatic = (node: number) => graph.nodes[node]!.read(asSet(graph)).follows?.kind === 'agc'
  const asked = askedOf(
    plan,
    ends.map((end, index) => ({
      gearKind: end.gear.kind,
      aim: aimOf(end),
      automatic: [...upstream[index]!].some(isAutomatic),
    })),
  )
  const meant = sourcesOf(graph, ends)
  const recordings = ends.map((end, index): AimedRecording => ({
    ...asked[index]!,
    end,
    sources: meant[index]!,
  }))
  // a recording that nothing reaches asks for nothing
  const heard = recordings.map(({ sources }) => sources.length > 0)
  return {
    recordings: recordings.filter((_, index) => heard[index]),
    ceilingsFor: graph.nodes.map(({ index: node }) =>
      recordings
        .filter((_, index) => heard[index])
        .flatMap(({ ceilings, end }, index) =>
          ceilings && upstream[ends.indexOf(end)]!.has(node) ? [index] : [],
        ),
    ),
    leadsToRecording: graph.nodes.map(({ index }) => upstream.some((nodes) => nodes.has(index))),
    marginDb: plan.marginDb,
  }
}

/** Everything that a node is fed by, and itself. */
export function upstreamOf(graph: Graph, end: number): Set<number> {
  const seen = new Set<number>()
  const back = (index: number): void => {
    if (seen.has(index)) return
    seen.add(index)
    graph.nodes[index]!.feeds.forEach(back)
  }
  back(end)
  return seen
}

/** A source at an entry of a recording, by its place in the table, and how far below the loudest there it is. */
interface Heard {
  source: number
  belowDb: number
}

/**
 * Sources that each recording is meant for: the loudest at each entry that it is fed by without a break. Whom no
 * microphone is meant for should be heard all the same, by the one that picks them up best.
 */
function sourcesOf(graph: Graph, ends: readonly End[]): number[][] {
  const heard = ends.map((end) => heardBy(graph, end))
  const all = heard.flat()
  const leastDb = (source: number) =>
    Math.min(...all.flatMap((each) => (each.source === source ? each.belowDb : [])))
  const isMeant = ({ source, belowDb }: Heard) => belowDb < meantWithinDb || belowDb === leastDb(source)
  return heard.map((here) => [...new Set(here.filter(isMeant).map(({ source }) => source))])
}

/** Sources at the entries of a recording. What a switch turns away is left out, unless that is all there is. */
function heardBy(graph: Graph, end: End): Heard[] {
  const table = tableOf(graph)
  const [open, turnedAway] = [new Set<number>(), new Set<number>()]
  const back = (index: number, isOpen: boolean): void => {
    const { feeds, stop, controls, read } = graph.nodes[index]!
    if (stop) return
    const passes = isOpen && !(controls.length > 0 && read(asSet(graph)).isOff)
    if (feeds.length === 0) (passes ? open : turnedAway).add(index)
    feeds.forEach((feed) => back(feed, passes))
  }
  back(end.node, true)
  const entries = open.size > 0 ? open : turnedAway
  return [...entries].flatMap((entry) => {
    const here = graph.origins.flatMap((origin, index) =>
      origin.node === entry ? [{ ...origin, index }] : [],
    )
    const loudestDb = Math.max(...here.map(({ typicalDb }) => typicalDb))
    return here.map(({ typicalDb, index }) => ({
      source: table.sourceOfOrigin[index]!,
      belowDb: loudestDb - typicalDb,
    }))
  })
}

/** A recording that counts with its ratios, dB. */
export interface RecordingRatios {
  /** `box.track` */
  end: string
  /** Box and track by name. */
  name: string
  speechToNoiseDb: number
  overBoxesDb: number
}

/** Ratios of every recording that counts. */
export const ratiosByRecording = (chain: Chain, { recordings }: Aims): RecordingRatios[] =>
  recordings
    .filter(({ counts }) => counts)
    .map((recording) => {
      const { all, boxes } = ratiosOf(chain, recording)
      const { box, stage } = recording.end
      return {
        end: `${box}.${stage.kind === 'recording' ? stage.track : ''}`,
        name: `${chain.graph.nodes[recording.end.node]!.partName}, ${stage.name}`,
        speechToNoiseDb: all,
        overBoxesDb: boxes,
      }
    })

/** The score of a chain with its controls set, for a plan. */
export function scoreOf(chain: Chain, aims: Aims, changes = 0): Score {
  const rooms = roomsOf(aims, (node) => roomAt(chain, node))
  const ratios = ratiosByRecording(chain, aims)
  return {
    overDb: mostFirst(rooms.map(({ missingDb }) => missingDb)),
    outsideDb: mostFirst(
      aims.recordings.map(({ end, window }) => outsideDb(window, amplitudeDb(chain.peakAfter(end.node)))),
    ),
    speechToNoiseDb: worstFirst(ratios.map(({ speechToNoiseDb }) => speechToNoiseDb)),
    overBoxesDb: worstFirst(ratios.map(({ overBoxesDb }) => overBoxesDb)),
    headroomDb: Math.min(...rooms.map(({ headroomDb }) => headroomDb)),
    changes,
  }
}

/** Headroom of a recording over all its ways, and what is missing to the margins asked for there. */
interface Room {
  headroomDb: number
  missingDb: number
}

/** For each recording its room, from the headroom at every node. Infinity where no ceiling is asked for. */
export function roomsOf(
  { ceilingsFor, marginDb, recordings }: Aims,
  roomDb: (node: number) => number,
): Room[] {
  const rooms = recordings.map((): Room => ({ headroomDb: Infinity, missingDb: 0 }))
  ceilingsFor.forEach((holds, node) => {
    if (holds.length === 0) return
    const headroomDb = roomDb(node)
    for (const recording of holds) {
      const room = rooms[recording]!
      room.headroomDb = Math.min(room.headroomDb, headroomDb)
      room.missingDb = Math.max(room.missingDb, marginDb - headroomDb)
    }
  })
  return rooms
}

function roomAt({ readings, peakBefore, peakAfter }: Chain, node: number): number {
  const { inputCeilingDb, outputCeilingDb } = readings[node]!
  return Math.min(
    inputCeilingDb === Infinity ? Infinity : inputCeilingDb - amplitudeDb(peakBefore(node)),
    outputCeilingDb === Infinity ? Infinity : outputCeilingDb - amplitudeDb(peakAfter(node)),
  )
}

/** Of the sources that a recording is meant for, the one that is least above the noise of its pauses. */
export function ratiosOf({ table, typical, pause }: Chain, { end, sources }: AimedRecording) {
  let [all, boxes] = [Infinity, Infinity]
  for (const source of sources) {
    const levelDb = powerDb(sourcePower(typical[source]!.after[end.node]!, table, source))
    const noise = noisePowers(pause[source]!.after[end.node]!, table)
    all = Math.min(all, levelDb - powerDb(noise.boxes + noise.place))
    boxes = Math.min(boxes, levelDb - powerDb(noise.boxes))
  }
  return { all, boxes }
}
