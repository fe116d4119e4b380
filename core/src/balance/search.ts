import { type Control, type Plan, type Position, positionsOf } from '../model'
import {
  type At,
  type End,
  type Flow,
  flowAfter,
  flowOf,
  type Graph,
  loudestPeakDb,
  type Node,
  noiseAt,
  noisePower,
  type Origin,
} from '../levels'
import { powerDb } from '../units'
import { compareScores, counts, missDb, type Score, tenths } from './objective'

/** A control that the search may move. */
export interface FreeControl {
  key: string
  control: Control
  now: Position
}

export interface SearchResult {
  score: Score
  positions: Map<string, Position>
  /** Stage evaluations made: how often a node's levels and noise were computed. */
  evaluations: number
}

/**
 * A partial answer for everything from a node to all ends behind it. Noise is the worst that any counted recording
 * behind collects, as power at the entry of the node, one figure for each source that comes in. Headroom and miss
 * are in tenths of a dB: rounding is monotone, so rounding early and late give the same minimum and maximum.
 */
interface Label {
  noise: number[]
  headroom: number
  miss: number
  changes: number
  choice: readonly (readonly [string, Position])[]
  behind: readonly Label[]
}

/**
 * The best positions of all free controls, exactly. Between sources and ends the chain is a tree, except where one
 * control drives several strips or a bus mixes several: those controls are tried in every combination, and for each
 * the trees are solved from their ends backwards by label setting. Two labels at one node and the same incoming
 * level differ only in noise, headroom, miss and changes, and one that is no better in any of them can be dropped.
 *
 * @param cancelled asked now and then; when it says true the search ends with undefined
 */
export function bestPositions(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  cancelled: () => boolean = () => false,
): SearchResult | undefined {
  // first only what meets every demand; when nothing does, the least bad
  return search(graph, plan, free, true, cancelled) ?? search(graph, plan, free, false, cancelled)
}

function search(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  strict: boolean,
  cancelled: () => boolean,
): SearchResult | undefined {
  const tree = treeOf(graph)
  const freeByKey = new Map(free.map((each) => [each.key, each]))
  const entangled = free.filter(({ key }) => tree.entangled.has(key))
  const positions = new Map(graph.settings)
  const at: At = (key) => positions.get(key)!
  const recordings = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  const someCount = recordings.some(({ gear }) => counts(plan, gear.kind))
  const counted = (end: End) => end.stage.kind === 'recording' && (!someCount || counts(plan, end.gear.kind))
  const margin = tenths(plan.marginDb)
  const memo = new Map<string, Label[]>()
  let evaluations = 0
  let best: SearchResult | undefined

  /** Labels of everything from a node on, for sources arriving as given. */
  function from(index: number, flows: readonly Flow[], came: number): Label[] {
    const key = `${index}<${came}|${tree.conditionedBehind[index]!.map((each) => positions.get(each)).join()}|${flows.map(flowKey).join()}`
    const known = memo.get(key)
    if (known) return known
    const node = graph.nodes[index]!
    const own = node.controls.filter((each) => freeByKey.has(each) && !tree.entangled.has(each))
    const labels: Label[] = []
    forEachChoice(
      own.map((each) => freeByKey.get(each)!),
      (choice) => {
        for (const [control, position] of choice) positions.set(control, position)
        for (const label of through(node, flows, choice, came)) insert(labels, label)
      },
    )
    for (const control of own) positions.set(control, freeByKey.get(control)!.now)
    memo.set(key, labels)
    return labels
  }

  function through(node: Node, flows: readonly Flow[], choice: Label['choice'], came: number): Label[] {
    const effects = flows.map((flow) => node.effect(flow, at))
    evaluations += flows.length
    const after = flows.map((flow, index) => flowAfter(flow, effects[index]!))
    let headroom = Infinity
    effects.forEach((effect, index) => {
      headroom = Math.min(
        headroom,
        tenths(effect.inputCeilingDb - loudestPeakDb(flows[index]!)),
        tenths(effect.outputCeilingDb - loudestPeakDb(after[index]!)),
      )
    })
    if (strict && headroom < margin) return []
    let miss = 0
    let ended: number[] = flows.map(() => -Infinity)
    for (const end of tree.endsAt[node.index]!) {
      const kind = end.stage.kind
      const floating = end.stage.kind === 'recording' && end.stage.floating
      for (const flow of after)
        miss = Math.max(miss, tenths(missDb(plan, { kind, floating }, loudestPeakDb(flow), flow.typicalDb)))
      if (counted(end)) ended = flows.map(() => 0)
    }
    if (strict && miss > 0) return []
    const changes = choice.filter(([control, position]) => position !== freeByKey.get(control)!.now).length
    let combined: Label[] = [{ noise: ended, headroom, miss, changes, choice, behind: [] }]
    for (const next of tree.nextOf[node.index]!) {
      const behind = from(next, after, node.index)
      const joined: Label[] = []
      for (const one of combined)
        for (const other of behind)
          insert(joined, {
            noise: one.noise.map((power, index) => Math.max(power, other.noise[index]!)),
            headroom: Math.min(one.headroom, other.headroom),
            miss: Math.max(one.miss, other.miss),
            changes: one.changes + other.changes,
            choice,
            behind: [...one.behind, other],
          })
      combined = joined
    }
    const beside = besideAt(graph, node, came, at)
    return combined.map((label) => ({
      ...label,
      noise: label.noise.map((power, index) => {
        const gain = noisePower(effects[index]!.typicalGainDb)
        return (
          (power + noisePower(effects[index]!.outputNoiseDb)) / gain +
          noisePower(effects[index]!.inputNoiseDb) +
          beside
        )
      }),
    }))
  }

  /** Everything with the entangled controls where they are put. */
  function trees(): void {
    let answers: { worst: number; headroom: number; miss: number; changes: number; labels: Label[] }[] = [
      { worst: Infinity, headroom: Infinity, miss: 0, changes: 0, labels: [] },
    ]
    for (const [root, origins] of tree.roots) {
      const labels = from(root, origins.map(flowOf), -1)
      answers = answers.flatMap((answer) =>
        labels.map((label) => ({
          worst: Math.min(
            answer.worst,
            ...origins.map((origin, index) => ratioDb(origin, label.noise[index]!)),
          ),
          headroom: Math.min(answer.headroom, label.headroom),
          miss: Math.max(answer.miss, label.miss),
          changes: answer.changes + label.changes,
          labels: [...answer.labels, label],
        })),
      )
      answers = undominated(answers)
      if (answers.length === 0) return
    }
    const moved = entangled.filter(({ key, now }) => positions.get(key) !== now).length
    for (const answer of answers) {
      const score: Score = {
        overDb: Math.max(0, margin - answer.headroom) / 10,
        outsideDb: answer.miss / 10,
        speechToNoiseDb: answer.worst,
        headroomDb: answer.headroom / 10,
        changes: answer.changes + moved,
      }
      if (best && compareScores(score, best.score) >= 0) continue
      const found = new Map(entangled.map(({ key }) => [key, positions.get(key)!]))
      answer.labels.forEach(function collect(label: Label) {
        for (const [control, position] of label.choice) found.set(control, position)
        label.behind.forEach(collect)
      })
      best = { score, positions: found, evaluations: 0 }
    }
  }

  let stopped = false
  forEachChoice(entangled, (choice) => {
    if (stopped || (stopped = cancelled())) return
    for (const [control, position] of choice) positions.set(control, position)
    trees()
  })
  return best && !stopped ? { ...best, evaluations } : undefined
}

/** Speech over all noise for one source; Infinity when no recording behind counts. */
const ratioDb = (origin: Origin, power: number): number =>
  power === -Infinity ? Infinity : origin.typicalDb - powerDb(power + noisePower(origin.placeNoiseDb))

const flowKey = (flow: Flow): string =>
  `${Math.round(flow.quietestDb * 1e5)}/${Math.round(flow.typicalDb * 1e5)}/${Math.round(flow.loudestDb * 1e5)}/${Math.round(flow.sourceOhm * 1e3)}`

/** Adds a label unless another is as good in everything; drops those it makes needless. */
function insert(labels: Label[], label: Label): void {
  for (const other of labels) if (noWorse(other, label)) return
  for (let index = labels.length - 1; index >= 0; index--)
    if (noWorse(label, labels[index]!)) labels.splice(index, 1)
  labels.push(label)
}

const noWorse = (one: Label, other: Label): boolean =>
  one.headroom >= other.headroom &&
  one.miss <= other.miss &&
  one.changes <= other.changes &&
  one.noise.every((power, index) => power <= other.noise[index]!)

function undominated<T extends { worst: number; headroom: number; miss: number; changes: number }>(
  all: T[],
): T[] {
  const kept: T[] = []
  const sorted = [...all].sort((one, other) => other.worst - one.worst)
  for (const each of sorted)
    if (
      !kept.some(
        (one) =>
          one.worst >= each.worst &&
          one.headroom >= each.headroom &&
          one.miss <= each.miss &&
          one.changes <= each.changes,
      )
    )
      kept.push(each)
  return kept
}

/** Calls back with every combination of positions, a list of [key, position]. Once with an empty list for no controls. */
export function forEachChoice(
  controls: readonly FreeControl[],
  visit: (choice: readonly (readonly [string, Position])[]) => void,
): void {
  const all = controls.map(({ control }) => positionsOf(control))
  const choice: [string, Position][] = []
  const step = (index: number): void => {
    if (index === controls.length) return visit([...choice])
    for (const position of all[index]!) {
      choice[index] = [controls[index]!.key, position]
      step(index + 1)
    }
  }
  step(0)
}

/** The graph seen as trees from its origins, and the controls that keep it from being one. */
function treeOf(graph: Graph) {
  const toEnd = graph.nodes.map(() => false)
  for (const { node } of graph.ends) toEnd[node] = true
  for (const { index, feeds } of [...graph.nodes].reverse())
    if (toEnd[index]) for (const feed of feeds) toEnd[feed] = true
  const nextOf = graph.nodes.map(({ index }) =>
    graph.nodes.filter((node) => toEnd[node.index] && node.feeds.includes(index)).map((node) => node.index),
  )
  const endsAt = graph.nodes.map(({ index }) => graph.ends.filter(({ node }) => node === index))

  const uses = new Map<string, number>()
  for (const node of graph.nodes)
    if (toEnd[node.index]) for (const key of node.controls) uses.set(key, (uses.get(key) ?? 0) + 1)
  const entangled = new Set([...uses].filter(([, count]) => count > 1).map(([key]) => key))
  const mixes = graph.nodes.filter(({ kind, index }) => kind === 'sum' && toEnd[index])
  const mixed = new Set<number>()
  const mark = (index: number, next: (index: number) => readonly number[]) => {
    for (const other of next(index))
      if (!mixed.has(other)) {
        mixed.add(other)
        mark(other, next)
      }
  }
  for (const { index } of mixes) {
    mixed.add(index)
    mark(index, (each) => graph.nodes[each]!.feeds)
    mark(index, (each) => nextOf[each]!)
  }
  for (const index of mixed) for (const key of graph.nodes[index]!.controls) entangled.add(key)

  const conditionedBehind: string[][] = graph.nodes.map(() => [])
  for (const { index, controls, kind } of [...graph.nodes].reverse())
    conditionedBehind[index] = [
      ...new Set([
        ...controls.filter((key) => entangled.has(key)),
        ...(kind === 'sum' ? controlsBefore(graph, index) : []),
        ...nextOf[index]!.flatMap((next) => conditionedBehind[next]!),
      ]),
    ]
  const roots = new Map<number, Origin[]>()
  for (const origin of graph.origins)
    if (toEnd[origin.node]) roots.set(origin.node, (roots.get(origin.node) ?? []).concat(origin))
  return { nextOf, endsAt, entangled, conditionedBehind, roots }
}

/** Noise power that the other feeds of a mix bring in; 0 anywhere else. */
function besideAt(graph: Graph, node: Node, came: number, at: At): number {
  if (node.kind !== 'sum') return 0
  let power = 0
  for (const feed of node.feeds)
    if (feed !== came) for (const each of noiseAt(graph, feed, at).values()) power += each
  return power
}

/** Controls of everything that feeds a node. */
function controlsBefore(graph: Graph, index: number): string[] {
  return graph.nodes[index]!.feeds.flatMap((feed) => [
    ...graph.nodes[feed]!.controls,
    ...controlsBefore(graph, feed),
  ])
}
