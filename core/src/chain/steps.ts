import type { Graph } from './graph'

/**
 * Nodes in the order in which they can be worked out: each after all that feed it, and automatic gains that turn
 * together in one step behind everything that any of them is fed by. Gains of which one feeds the other cannot wait
 * for each other and are taken one by one.
 */
export function stepsOf(graph: Graph): number[][] {
  const done = new Set<number>()
  const steps: number[][] = []
  const visit = (index: number): void => {
    if (done.has(index)) return
    const { linked } = graph.nodes[index]!
    const together =
      linked && !linked.some((other) => feedsInto(graph, other, index) || feedsInto(graph, index, other))
    const step = together ? [index, ...linked] : [index]
    for (const each of step) done.add(each)
    for (const each of step) graph.nodes[each]!.feeds.forEach(visit)
    steps.push(step)
  }
  for (const { index } of graph.nodes) visit(index)
  return steps
}

function feedsInto(graph: Graph, from: number, to: number): boolean {
  return graph.nodes[to]!.feeds.some((feed) => feed === from || feedsInto(graph, from, feed))
}

/** For each node, whether it or an earlier one follows the level, so that its output depends on the situation. */
export function isBehindFollowers(graph: Graph, follows: (node: number) => boolean): boolean[] {
  const isBehind = graph.nodes.map(() => false)
  for (const step of graph.steps)
    if (step.some((index) => follows(index) || graph.nodes[index]!.feeds.some((feed) => isBehind[feed])))
      for (const index of step) isBehind[index] = true
  return isBehind
}
