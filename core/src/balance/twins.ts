import { type PositionOf, type Graph, type Node, type Reading, asSet } from '../chain'
import { type Position, known } from '../model'
import { combinationsOf } from './positions'

/**
 * For each node the first that does the same with the same, mostly the left channel of a right one: a search then works
 * out one of them. Nodes whose signals meet somewhere are no twins: their noises are strangers to each other there.
 *
 * @param needed nodes that matter, by index
 * @param moved the positions of each control that the search moves, by `part.control`
 */
export function twinsOf(
  graph: Graph,
  needed: readonly boolean[],
  moved: ReadonlyMap<string, readonly Position[]>,
): number[] {
  const behind = nodesBehind(graph, needed)
  const twinOf = graph.nodes.map(({ index }) => index)
  const classes: number[][] = []
  for (const index of graph.steps.flat()) {
    if (!needed[index]) continue
    const looks = appearance(graph, graph.nodes[index]!, twinOf)
    const same = classes.find(
      (members) =>
        appearance(graph, graph.nodes[members[0]!]!, twinOf) === looks &&
        members.every((member) => isDisjoint(behind[member]!, behind[index]!)) &&
        readsAlike(graph, graph.nodes[members[0]!]!, graph.nodes[index]!, moved),
    )
    if (same) {
      twinOf[index] = same[0]!
      same.push(index)
    } else classes.push([index])
  }
  return twinOf
}

/** For each node itself and all that it feeds, straight or through others. */
function nodesBehind(graph: Graph, needed: readonly boolean[]): Set<number>[] {
  const behind = graph.nodes.map(({ index }) => new Set([index]))
  for (const index of graph.steps.flat().reverse())
    if (needed[index])
      for (const feed of graph.nodes[index]!.feeds) for (const each of behind[index]!) behind[feed]!.add(each)
  return behind
}

const isDisjoint = (one: ReadonlySet<number>, other: ReadonlySet<number>): boolean =>
  ![...one].some((each) => other.has(each))

/** Everything of a node except its reading. */
function appearance(
  graph: Graph,
  { index, kind, sign = 1, delayS = 0, stop, controls, feeds, linked }: Node,
  twinOf: readonly number[],
): string {
  const enters = graph.origins
    .filter(({ node }) => node === index)
    .map(({ source, quietestDb, typicalDb, loudestDb, delayS: lateS }) => [
      source.id,
      quietestDb,
      typicalDb,
      loudestDb,
      lateS,
    ])
  const noises = graph.entryNoises.filter(({ node }) => node === index).map((each) => each.noises)
  const together = linked ? [index, ...linked].sort((one, other) => one - other) : []
  return JSON.stringify([
    kind,
    sign,
    delayS,
    stop !== undefined,
    [...controls].sort(),
    feeds.map((feed) => twinOf[feed]),
    together,
    enters,
    noises,
  ])
}

/** Whether two nodes have the same reading at all positions in the search. */
function readsAlike(
  graph: Graph,
  one: Node,
  other: Node,
  moved: ReadonlyMap<string, readonly Position[]>,
): boolean {
  const keys = one.controls.filter((key) => moved.has(key))
  const stopsOf = (key: string) => known(moved.get(key), `control ${key}`)
  return combinationsOf(keys.map((key) => stopsOf(key).length)).every((stop) => {
    const at: PositionOf = (key) => {
      const place = keys.indexOf(key)
      return place < 0 ? asSet(graph)(key) : stopsOf(key)[stop[place]!]!
    }
    return inShort(one.read(at)) === inShort(other.read(at))
  })
}

/** A reading as text, without the last digits, in which circuits solved in another order differ. */
const inShort = (reading: Reading): string =>
  JSON.stringify(reading, (_, value: unknown) => (typeof value === 'number' ? value.toFixed(7) : value))
