import type { End, Graph, Origin } from '../chain'

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
