import { settledAgcGainDb } from '../dynamics'
import type { Source } from '../model'
import { powerDb } from '../units'
import { type At, type Flow, flowAfter, noisePower, stageActs, steady } from './effect'
import type { Graph, Node } from './nodes'

/** What goes on while somebody pauses. */
export const neverPauses = (source: Source): boolean => source.kind !== 'speech' && source.kind !== 'strike'

/**
 * Makes automatic gains of one name in one box turn together: the loudest of their channels decides. While a source
 * sounds, that is the source itself on whichever channel it is loudest, or what never pauses (music, a tone, a
 * machine) on another channel; in a pause it is what never pauses alone, which so keeps the gain down.
 */
export function linkAutomaticGain(graph: Graph): void {
  const groups = new Map<string, Node[]>()
  for (const node of graph.nodes)
    if (node.stage?.kind === 'agc' && node.stage.linked) {
      const key = `${node.part} ${node.stage.linked}`
      groups.set(key, [...(groups.get(key) ?? []), node])
    }
  const linked = [...groups.values()].filter(({ length }) => length > 1)
  // what holds a gain is read off what comes in, before any gain is linked to it
  for (const group of linked) for (const node of group) link(graph, node, group)
}

function link(graph: Graph, node: Node, group: readonly Node[]): void {
  const { stage, effect: alone } = node
  if (stage?.kind !== 'agc') return
  const others = group.filter((each) => each !== node)
  node.linked = others.map(({ index }) => index)
  node.own = node.controls
  node.controls = [
    ...new Set([...node.controls, ...others.flatMap(({ index }) => controlsUpTo(graph, index))]),
  ]
  const arriving = (at: At) =>
    others.flatMap(({ feeds }) => feeds.flatMap((feed) => flowsAfter(graph, feed, at)))
  node.heldDb = (at) => steadyDb(arriving(at))
  node.effect = (flow, at) => {
    const plain = alone(flow, at)
    // taken out by its switch it turns nothing, whoever is linked
    if (!turns(node, at)) return plain
    const beside = arriving(at)
    const heldDb = steadyDb(beside)
    const gain = (levelOf: (flow: Flow) => number) =>
      settledAgcGainDb(
        stage,
        Math.max(
          levelOf(flow),
          heldDb,
          ...beside.flatMap((each) => (each.flow.source === flow.source ? [levelOf(each.flow)] : [])),
        ),
      )
    return {
      ...steady(0, plain.sourceOhm),
      quietestGainDb: gain(({ quietestDb }) => quietestDb),
      typicalGainDb: gain(({ typicalDb }) => typicalDb),
      loudestGainDb: gain(({ loudestDb }) => loudestDb),
    }
  }
}

const turns = ({ stage, part }: Node, at: At): boolean => !stage || stageActs(stage, part, at)

/** Controls that change what a node does as things stand: those of other channels only while its gain hangs on them. */
export const controlsThatCount = (node: Node, at: At): string[] =>
  node.own && !turns(node, at) ? node.own : node.controls

/** Takes the link off gains that are switched off in a graph's settings, for as long as nothing switches them. */
export function unlinkIdle(graph: Graph): void {
  for (const node of graph.nodes)
    if (node.own && !turns(node, (key) => graph.settings.get(key)!)) {
      node.controls = node.own
      node.linked = undefined
    }
}

interface Arriving {
  source: Source
  flow: Flow
}

/** Level of what never pauses among flows, all together; -Infinity for none. */
const steadyDb = (flows: readonly Arriving[]): number =>
  powerDb(
    flows.reduce((sum, { source, flow }) => sum + (neverPauses(source) ? noisePower(flow.typicalDb) : 0), 0),
  )

/** What every source comes to at the output of a node. */
function flowsAfter(graph: Graph, index: number, at: At): Arriving[] {
  const node = graph.nodes[index]!
  const own = graph.origins
    .filter((origin) => origin.node === index)
    .map(({ source, quietestDb, typicalDb, loudestDb }) => ({
      source,
      flow: { quietestDb, typicalDb, loudestDb, crestDb: source.crestDb, sourceOhm: 0, source: source.id },
    }))
  return [...own, ...node.feeds.flatMap((feed) => flowsAfter(graph, feed, at))].map(({ source, flow }) => ({
    source,
    flow: flowAfter(flow, node.effect(flow, at)),
  }))
}

const controlsUpTo = (graph: Graph, index: number): string[] => {
  const { controls, feeds } = graph.nodes[index]!
  return [...controls, ...feeds.flatMap((feed) => controlsUpTo(graph, feed))]
}
