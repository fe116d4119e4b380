import { type Graph } from './graph'
import { tableOf } from './table'
import type { SpanOf } from './reading-span'

/** One way of a source to a node. */
export interface Way {
  source: number
  origin: number
  /** From the entry to the node itself. */
  nodes: readonly number[]
  /** Index of the entry's noise in the graph; undefined if none. */
  entryNoise: number | undefined
  /** Low-cuts on the path if every optional one acts, and if only the permanent ones do: indices in the graph's table. */
  mostCut: number
  leastCut: number
}

/** All ways of all sources to a node. */
export function waysTo(graph: Graph, node: number, wholeOf: SpanOf): Way[] {
  const table = tableOf(graph)
  const rows: number[][] = []
  const back = (index: number, behind: readonly number[]): void => {
    const row = [index, ...behind]
    const { feeds } = graph.nodes[index]!
    if (feeds.length === 0) rows.push(row)
    else for (const feed of feeds) back(feed, row)
  }
  back(node, [])
  return rows.flatMap((nodes) => {
    const entryNoise = graph.entryNoises.findIndex((each) => each.node === nodes[0])
    let [mostCut, leastCut] = [0, 0]
    for (const { lowCutsHz, alwaysLowCutHz } of nodes.map(wholeOf)) {
      for (const hz of lowCutsHz) mostCut = table.withLowCut(mostCut, hz)
      if (alwaysLowCutHz !== undefined) leastCut = table.withLowCut(leastCut, alwaysLowCutHz)
    }
    return graph.origins.flatMap((origin, index): Way[] =>
      origin.node === nodes[0]
        ? [
            {
              source: table.sourceOfOrigin[index]!,
              origin: index,
              nodes,
              entryNoise: entryNoise < 0 ? undefined : entryNoise,
              mostCut,
              leastCut,
            },
          ]
        : [],
    )
  })
}
