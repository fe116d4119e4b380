import type { Patch, Shelf } from '../model'
import type { Graph, Node } from './graph'
import { through } from './reading'

/** A graph while it is laid out. */
export interface Building {
  graph: Graph
  patch: Patch
  /** The shelf as the patch sees it, and the common shelf without the patch's own gear. */
  shelf: Shelf
  commonShelf: Shelf
  /** Node that drives each channel of each output, by `channelKey`. */
  driven: Map<string, number>
}

export const channelKey = (box: string, port: string, channel: string): string => `${box}.${port}.${channel}`

/** Adds a node at the end of a graph; returns its index. */
export function addNode(graph: Graph, node: Omit<Node, 'index'>): number {
  const index = graph.nodes.length
  graph.nodes.push(Object.assign(node, { index }))
  return index
}

/** Joins several feeds in a sum node. A single feed needs none; without feeds the result is undefined. */
export function sumOf(
  graph: Graph,
  feeds: readonly number[],
  where: Pick<Node, 'id' | 'part' | 'partName'>,
): number | undefined {
  if (feeds.length <= 1) return feeds[0]
  return addNode(graph, {
    ...where,
    id: `${where.id}.sum`,
    name: 'Mix',
    kind: 'sum',
    domain: graph.nodes[feeds[0]!]!.domain,
    feeds: [...feeds],
    controls: [],
    read: () => through,
  })
}
