import {
  asSet,
  type PositionOf,
  type Graph,
  type Node,
  noisePower,
  type Read,
  type Reading,
  stepsOf,
} from '../chain'
import { type Position, lastOf, known } from '../model'
import { powerDb } from '../units'
import { twinsOf } from './twins'

/** Stages that are not merged: their effect depends on their input. */
const keptKinds: ReadonlySet<Node['kind']> = new Set(['agc', 'limiter', 'duck', 'low-cut'])

/**
 * The same chain with fewer nodes, for searching: what leads to no recording is left out, one of two equal nodes represents both,
 * and rows of nodes become one where the controls that move them have few enough combinations. Levels, noises and ceilings at the ends are the same.
 *
 * @param moved the positions of each control that the search moves, by `part.control`
 * @param togetherMost combinations that the controls of one row may have, where there are several
 */
export function reducedGraph(
  whole: Graph,
  moved: ReadonlyMap<string, readonly Position[]>,
  togetherMost = 0,
): Graph {
  const graph = withoutTwins(whole, moved)
  const needed = neededNodes(graph)
  const rows = rowsOf(graph, needed, (row) => {
    const counts = [...new Set(row.flatMap(({ controls }) => controls))].flatMap(
      (key) => moved.get(key)?.length ?? [],
    )
    return counts.length < 2 || counts.reduce((product, count) => product * count, 1) <= togetherMost
  })
  const rowOf = new Map(rows.flatMap((row, at) => row.map(({ index }) => [index, at] as const)))
  const place = (index: number) => known(rowOf.get(index), `the row of node ${index}`)
  const reduced: Graph = {
    nodes: rows.map((row, index) => nodeOf(row, index, place, asSet(graph))),
    steps: [],
    origins: graph.origins
      .filter(({ node }) => needed[node])
      .map((each) => ({ ...each, node: place(each.node) })),
    entryNoises: graph.entryNoises
      .filter(({ node }) => needed[node])
      .map((each) => ({ ...each, node: place(each.node) })),
    ends: graph.ends
      .filter(({ stage }) => stage.kind === 'recording')
      .map((each) => ({ ...each, node: place(each.node) })),
    settings: graph.settings,
    assumptions: [],
  }
  reduced.steps = stepsOf(reduced)
  return reduced
}

/** Nodes in rows where each feeds only the next, as long as a row may be merged into one node. */
function rowsOf(
  graph: Graph,
  needed: readonly boolean[],
  fewEnough: (row: readonly Node[]) => boolean,
): Node[][] {
  const nextCount = graph.nodes.map(({ index }) =>
    graph.nodes.reduce(
      (count, node) => (needed[node.index] && node.feeds.includes(index) ? count + 1 : count),
      0,
    ),
  )
  const isEnd = new Set(graph.ends.map(({ node }) => node))
  const stays = ({ kind, delayS, linked, stop }: Node) => keptKinds.has(kind) || delayS || linked || stop
  const rows: Node[][] = []
  const rowOf = new Map<number, Node[]>()
  for (const index of graph.steps.flat()) {
    if (!needed[index]) continue
    const node = graph.nodes[index]!
    const [feed = -1, ...others] = node.feeds
    const row = others.length ? undefined : rowOf.get(feed)
    const joins =
      row !== undefined &&
      lastOf(row).index === feed &&
      nextCount[feed] === 1 &&
      !isEnd.has(feed) &&
      ![...row, node].some(stays) &&
      fewEnough([...row, node])
    if (!joins) rows.push([])
    const into = joins ? row : lastOf(rows)
    into.push(node)
    rowOf.set(index, into)
  }
  return rows
}

/** The same nodes, each fed by the first of the twins that feed it, so that the others lead nowhere. */
function withoutTwins(graph: Graph, moved: ReadonlyMap<string, readonly Position[]>): Graph {
  const twinOf = twinsOf(graph, neededNodes(graph), moved)
  const first = (index: number) => twinOf[index]!
  return {
    ...graph,
    nodes: graph.nodes.map((node) => {
      const linked = [...new Set(node.linked?.map(first))].filter((index) => index !== first(node.index))
      return { ...node, feeds: node.feeds.map(first), linked: linked.length ? linked : undefined }
    }),
    ends: graph.ends.map((end) => ({ ...end, node: first(end.node) })),
  }
}

/** Nodes on the way to a recording, and everything that their automatic gain listens to. */
function neededNodes(graph: Graph): boolean[] {
  const needed = graph.nodes.map(() => false)
  const mark = (index: number): void => {
    if (needed[index]) return
    needed[index] = true
    const { feeds, linked = [] } = graph.nodes[index]!
    for (const other of [...feeds, ...linked]) mark(other)
  }
  for (const { node, stage } of graph.ends) if (stage.kind === 'recording') mark(node)
  return needed
}

function nodeOf(
  row: readonly Node[],
  index: number,
  place: (index: number) => number,
  current: PositionOf,
): Node {
  const [first] = row
  const last = lastOf(row)
  const linked = first!.linked?.map(place)
  const shared = { index, feeds: first!.feeds.map(place), linked }
  if (row.length === 1) return { ...first!, ...shared }
  return {
    ...last,
    ...shared,
    controls: [...new Set(row.flatMap(({ controls }) => controls))],
    sign: row.reduce((sign, node) => sign * (node.sign ?? 1), 1) < 0 ? -1 : 1,
    read: readingOfRow(row, current),
  }
}

/** Readings of a row: nodes without controls are merged once, the others once per position. */
function readingOfRow(row: readonly Node[], current: PositionOf): Read {
  const parts: (Reading | Read)[] = []
  for (const { controls, read } of row) {
    if (controls.length > 0) {
      parts.push(rememberedBy(controls, read))
      continue
    }
    const before = parts.at(-1)
    const reading = read(current)
    if (before && typeof before !== 'function') parts[parts.length - 1] = inRow(before, reading)
    else parts.push(reading)
  }
  return (at) => {
    const readings = parts.map((part) => (typeof part === 'function' ? part(at) : part))
    return readings.reduce(inRow)
  }
}

function rememberedBy(controls: readonly string[], read: Read): Read {
  const readings = new Map<Position, Reading>()
  return (at) => {
    const current = controls.length === 1 ? at(controls[0]!) : controls.map(at).join()
    const found = readings.get(current) ?? read(at)
    readings.set(current, found)
    return found
  }
}

/** Two readings in a row as one: noises between them are referred to the input, ceilings too. */
function inRow(one: Reading, other: Reading): Reading {
  const toInput = (db: number) => db - one.gainDb
  return {
    ...one,
    gainDb: one.gainDb + other.gainDb,
    isOff: one.isOff || other.isOff,
    inputNoiseDb: powerDb(
      noisePower(one.inputNoiseDb) +
        noisePower(toInput(one.outputNoiseDb)) +
        noisePower(toInput(other.inputNoiseDb)),
    ),
    outputNoiseDb: other.outputNoiseDb,
    inputCeilingDb: Math.min(one.inputCeilingDb, toInput(one.outputCeilingDb), toInput(other.inputCeilingDb)),
    outputCeilingDb: other.outputCeilingDb,
  }
}
