import type { Graph } from '../chain'
import { type Aims, upstreamOf } from './aims'
import type { FreeControl } from './free-control'

/** A part of a chain that has no recording and no control in common with the rest. */
export interface Component {
  controls: FreeControl[]
  aims: Aims
}

/** Controls and recordings in groups: a recording goes with every control that changes what it holds. */
export function componentsOf(graph: Graph, aims: Aims, free: readonly FreeControl[]): Component[] {
  const keys = new Set(free.map(({ key }) => key))
  const groups: { recordings: number[]; keys: Set<string> }[] = []
  aims.recordings.forEach(({ end }, recording) => {
    const own = new Set(
      [...heardBy(graph, end.node)].flatMap((node) =>
        graph.nodes[node]!.controls.filter((key) => keys.has(key)),
      ),
    )
    const touching = groups.filter((group) => [...own].some((key) => group.keys.has(key)))
    for (const group of touching) groups.splice(groups.indexOf(group), 1)
    groups.push({
      recordings: [recording, ...touching.flatMap((group) => group.recordings)].sort((a, b) => a - b),
      keys: new Set([...own, ...touching.flatMap((group) => [...group.keys])]),
    })
  })
  return groups.map(({ recordings, keys: own }) => ({
    controls: free.filter(({ key }) => own.has(key)),
    aims: aimsFor(graph, aims, recordings),
  }))
}

/** Everything that a recording is fed by, and what its automatic gain listens to. */
function heardBy(graph: Graph, end: number): Set<number> {
  const heard = new Set<number>()
  const mark = (index: number): void => {
    if (heard.has(index)) return
    heard.add(index)
    const { feeds, linked = [] } = graph.nodes[index]!
    for (const other of [...feeds, ...linked]) mark(other)
  }
  mark(end)
  return heard
}

/** Aims of some recordings alone. */
function aimsFor(graph: Graph, aims: Aims, recordings: readonly number[]): Aims {
  const upstream = recordings.map((recording) => upstreamOf(graph, aims.recordings[recording]!.end.node))
  return {
    ...aims,
    recordings: recordings.map((recording) => aims.recordings[recording]!),
    ceilingsFor: aims.ceilingsFor.map((holds) =>
      recordings.flatMap((recording, index) => (holds.includes(recording) ? [index] : [])),
    ),
    leadsToRecording: graph.nodes.map(({ index }) => upstream.some((nodes) => nodes.has(index))),
  }
}
