import { asSet, type Chain, chainOf, type Graph, graphOf, type Node, type PositionOf } from '../chain'
import type { Assumption } from '../findings'
import type { Patch, Shelf } from '../model'
import { withBehind } from './behind'
import { ChainReader } from './chain-reader'
import { isSwitchedOff, runAlong } from './run-along'
import { type Path, pathsOf } from './paths'
import type { Run } from './run'
import { withPlayingOn } from './playing-on'
import { withSpill } from './spill'

export interface Levels {
  runs: Run[]
  /** For each control (`part.control`) the runs that it changes. */
  reach: Record<string, string[]>
  assumptions: Assumption[]
}

/** Every run of a patch with its present settings. The patch must have passed `checkPatch`. */
export function levelsOfPatch(patch: Patch, shelf: Shelf): Levels {
  const graph = graphOf(patch, shelf)
  return levelsOfGraph(graph, asSet(graph))
}

/** The same on a compiled graph, with settings given from outside. */
export function levelsOfGraph(graph: Graph, at: PositionOf): Levels {
  const chain = chainOf(
    graph,
    graph.nodes.map(({ read }) => read(at)),
  )
  const reader = new ChainReader(chain)
  const { paths, runs } = heardAlong(reader, pathsOf(graph))
  const reach: Record<string, string[]> = Object.fromEntries(
    [...graph.settings.keys()].map((key) => [key, []]),
  )
  for (const [index, { nodes }] of paths.entries())
    for (const key of new Set(nodes.flatMap((node) => controlsThatCount(chain, graph.nodes[node]!))))
      reach[key]?.push(runs[index]!.id)
  return { runs: withPlayingOn(withBehind(withSpill(runs))), reach, assumptions: graph.assumptions }
}

/**
 * Runs along paths. One that a switch has turned away is none where the same source arrives there by another way, nor
 * where another arrives instead and the box records this one beside it: that is how a switch shares out its tracks.
 */
function heardAlong(reader: ChainReader, all: readonly Path[]): { paths: Path[]; runs: Run[] } {
  const found = all.map((path) => ({ path, run: runAlong(reader, path) }))
  const alive = found.flatMap(({ path, run }) => (run.stop ? [] : [path]))
  const arrives = new Set(alive.map(({ origin, end }) => `${origin.source.id} ${end.node}`))
  const reached = new Set(alive.map(({ end }) => end.node))
  const held = new Set(
    alive.flatMap(({ origin, end }) =>
      end.stage.kind === 'recording' ? [`${origin.source.id} ${end.box}`] : [],
    ),
  )
  const isElsewhere = ({ origin: { source }, end }: Path) =>
    arrives.has(`${source.id} ${end.node}`) || (reached.has(end.node) && held.has(`${source.id} ${end.box}`))
  const kept = found.filter(
    ({ path }) => !isElsewhere(path) || !path.nodes.some((node) => isSwitchedOff(reader.chain, node)),
  )
  return { paths: kept.map(({ path }) => path), runs: numbered(kept.map(({ run }) => run)) }
}

/** Controls that affect a node at present: those of other channels only while its gain is linked with theirs. */
function controlsThatCount({ graph, readings }: Chain, node: Node): string[] {
  if (!node.linked || !readings[node.index]!.follows) return node.controls
  return [...node.controls, ...node.linked.flatMap((other) => controlsUpTo(graph, other))]
}

const controlsUpTo = (graph: Graph, index: number): string[] => {
  const { controls, feeds } = graph.nodes[index]!
  return [...controls, ...feeds.flatMap((feed) => controlsUpTo(graph, feed))]
}

/** One source may take several ways to one end, as both sides of a player into one mix: ids stay apart. */
function numbered(runs: Run[]): Run[] {
  const seen = new Map<string, number>()
  for (const run of runs) {
    const count = (seen.get(run.id) ?? 0) + 1
    seen.set(run.id, count)
    if (count > 1) run.id += `#${count}`
  }
  return runs
}
