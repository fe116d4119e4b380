import { type Graph } from './graph'
import { type Table, tableOf } from './table'
import { sameDelayS } from './mixture'
import type { SpanOf } from './reading-span'

/** A path of a source or of an entry's noise to a place in the chain. Its amplitude depends on the region, the path does not. */
interface Slot {
  emitter: number
  delayS: number
  /** Low-cuts passed if every optional one acts, and if only the permanent ones do: indices in the graph's table. */
  mostCut: number
  leastCut: number
}

/** Everything that may arrive at a place: its paths, with the figures read most often. */
export interface Shape {
  slots: readonly Slot[]
  /** For each source its paths as slot indices, grouped by time of arrival. */
  sources: readonly (readonly (readonly number[])[])[]
  /** Paths of entry noises, with their power at amplitude 1. */
  places: readonly Place[]
}

interface Place {
  slot: number
  /** Least power under the A curve, and the most. */
  weightedLow: number
  weightedHigh: number
  /** Least and most power without it, as it mostly is and at its loudest. */
  plainLow: number
  plainHigh: number
  plainLoudestHigh: number
  /** Least and most peak at its loudest, squared. */
  peakLow: number
  peakHigh: number
}

/** How the paths of a sum are made of those of its feeds. */
export interface Joint {
  /** For each feed and each of its slots the slot that it goes into. */
  into: readonly (readonly number[])[]
  /** Some noise of a box comes by several feeds. */
  sharesBoxes: boolean
}

/** The ways before and after every node of a graph. */
export interface Shapes {
  before: readonly Shape[]
  after: readonly Shape[]
  joints: readonly (Joint | undefined)[]
}

const noShape: Shape = { slots: [], sources: [], places: [] }

/** Works out once, over all positions, which ways lead where. */
export function shapesOf(graph: Graph, whole: SpanOf): Shapes {
  const table = tableOf(graph)
  const before: Shape[] = graph.nodes.map(() => noShape)
  const after: Shape[] = graph.nodes.map(() => noShape)
  const joints: (Joint | undefined)[] = graph.nodes.map(() => undefined)
  for (const index of graph.steps.flat()) {
    const node = graph.nodes[index]!
    if (node.feeds.length === 0) before[index] = shapeOf(table, entrySlots(graph, table, index))
    else if (node.feeds.length === 1) before[index] = after[node.feeds[0]!]!
    else {
      const { slots, into } = joined(node.feeds.map((feed) => after[feed]!.slots))
      before[index] = shapeOf(table, slots)
      joints[index] = { into, sharesBoxes: sharesBoxes(graph, node.feeds) }
    }
    const { lowCutsHz, alwaysLowCutHz } = whole(index)
    after[index] =
      !node.delayS && lowCutsHz.length === 0
        ? before[index]
        : shapeOf(
            table,
            before[index].slots.map((slot) => ({
              emitter: slot.emitter,
              delayS: slot.delayS + (node.delayS ?? 0),
              mostCut: lowCutsHz.reduce((filter, hz) => table.withLowCut(filter, hz), slot.mostCut),
              leastCut:
                alwaysLowCutHz === undefined
                  ? slot.leastCut
                  : table.withLowCut(slot.leastCut, alwaysLowCutHz),
            })),
          )
  }
  return { before, after, joints }
}

function entrySlots(graph: Graph, table: Table, index: number): Slot[] {
  const uncut = { mostCut: 0, leastCut: 0 }
  return [
    ...graph.origins.flatMap(({ node, delayS }, emitter) =>
      node === index ? [{ emitter, delayS, ...uncut }] : [],
    ),
    ...graph.entryNoises.flatMap(({ node }, entry) =>
      node === index ? [{ emitter: table.firstEntryNoise + entry, delayS: 0, ...uncut }] : [],
    ),
  ]
}

/** Puts everything from one emitter with one delay into one slot. */
function joined(feeds: readonly (readonly Slot[])[]): { slots: Slot[]; into: number[][] } {
  const slots: Slot[] = []
  const into = feeds.map((feed) =>
    feed.map((slot) => {
      const same = slots.findIndex(
        (each) =>
          each.emitter === slot.emitter &&
          each.mostCut === slot.mostCut &&
          each.leastCut === slot.leastCut &&
          Math.abs(each.delayS - slot.delayS) < sameDelayS,
      )
      return same >= 0 ? same : slots.push(slot) - 1
    }),
  )
  return { slots, into }
}

function shapeOf(table: Table, slots: readonly Slot[]): Shape {
  const sources = table.sources.map((_, source) => {
    const groups: number[][] = []
    slots.forEach(({ emitter, delayS }, slot) => {
      if (emitter >= table.firstEntryNoise || table.sourceOfOrigin[emitter] !== source) return
      const same = groups.find(([first]) => Math.abs(slots[first!]!.delayS - delayS) < sameDelayS)
      if (same) same.push(slot)
      else groups.push([slot])
    })
    return groups
  })
  const places = slots.flatMap(({ emitter, mostCut, leastCut }, slot): Place[] => {
    if (emitter < table.firstEntryNoise) return []
    const entry = emitter - table.firstEntryNoise
    const [cut, uncut] = [table.entryNoiseLeft(entry, mostCut), table.entryNoiseLeft(entry, leastCut)]
    return [
      {
        slot,
        weightedLow: cut.weighted,
        weightedHigh: uncut.weighted,
        plainLow: cut.plain,
        plainHigh: uncut.plain,
        plainLoudestHigh: uncut.plainLoudest,
        peakLow: cut.loudestPeak ** 2,
        peakHigh: uncut.loudestPeak ** 2,
      },
    ]
  })
  return { slots, sources, places }
}

/** Whether two feeds of a sum have a node in common upstream. */
function sharesBoxes(graph: Graph, feeds: readonly number[]): boolean {
  const seen = new Set<number>()
  return feeds.some((feed) => {
    const own = new Set<number>()
    const back = (index: number): void => {
      own.add(index)
      graph.nodes[index]!.feeds.forEach(back)
    }
    back(feed)
    const common = [...own].some((index) => seen.has(index))
    own.forEach((index) => seen.add(index))
    return common
  })
}
