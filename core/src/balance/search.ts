import { type Plan, type Position, positionsOf } from '../model'
import {
  aimOf,
  type At,
  type Effect,
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
  outsideDb,
  windowOf,
} from '../levels'
import { powerDb } from '../units'
import { type Box, boundsOn } from './bounds'
import type { FreeControl } from './free-control'
import { Heap } from './heap'
import { narrowing } from './narrowing'
import { compareScores, counts, type Score, tenths } from './objective'

/** Positions of some controls, by key. */
type Choice = readonly (readonly [string, Position])[]

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
  choice: Choice
  behind: readonly Label[]
}

/** What a node does to a flow, with its gain and the noise it adds at its entry as powers. */
interface Prepared {
  effect: Effect
  gain: number
  added: number
}

/** What a search asks for: the demands that must be met, in tenths of a dB, and what is then made best. */
interface Quest {
  leastHeadroom: number
  mostMiss: number
  best: 'headroom' | 'miss' | 'everything'
}

/**
 * The best positions of all free controls for the recordings, exactly. Between sources and ends the chain is a tree,
 * except where one control drives several strips or a bus mixes several: those controls are tried in every
 * combination, and for each the trees are solved from their ends backwards by label setting. Two labels at one node
 * and the same incoming level differ only in noise, headroom and changes, and one that is no better in any of them
 * is dropped. What breaks a demand is dropped at once; when nothing meets them all, the least that must be given up
 * is found first, headroom before window, and the search repeated with that.
 *
 * @param cancelled asked now and then; when it says true the search ends with undefined
 */
export function bestPositions(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  cancelled: () => boolean = () => false,
): SearchResult | undefined {
  const margin = tenths(plan.marginDb)
  const look = (quest: Quest) => search(graph, plan, free, quest, cancelled)
  const wanted = look({ leastHeadroom: margin, mostMiss: 0, best: 'everything' })
  if (wanted || cancelled()) return wanted
  // a narrow miss is looked for before a wide one: the narrower, the more is ruled out at once
  const leastMiss = (leastHeadroom: number): number | undefined => {
    for (const mostMiss of missSteps) {
      const found = look({ leastHeadroom, mostMiss, best: 'miss' })
      if (found) return tenths(found.score.outsideDb)
      if (cancelled()) return undefined
    }
    return undefined
  }
  let leastHeadroom = margin
  let mostMiss = leastMiss(leastHeadroom)
  if (mostMiss === undefined && !cancelled()) {
    const headroom = look({ leastHeadroom: -Infinity, mostMiss: Infinity, best: 'headroom' })
    if (!headroom) return undefined
    leastHeadroom = Math.min(margin, tenths(headroom.score.headroomDb))
    mostMiss = leastMiss(leastHeadroom)
  }
  return mostMiss === undefined ? undefined : look({ leastHeadroom, mostMiss, best: 'everything' })
}

/** Widths tried for the worst recording's miss, in tenths of a dB. */
const missSteps = [20, 60, 180, 600, Infinity] as const

function search(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  quest: Quest,
  cancelled: () => boolean,
): SearchResult | undefined {
  const margin = tenths(plan.marginDb)
  const noWorse = noWorseFor[quest.best]
  const tree = treeOf(graph)
  const freeByKey = new Map(free.map((each) => [each.key, each]))
  const entangled = free.filter(({ key }) => tree.entangled.has(key))
  const positions = new Map(graph.settings)
  const at: At = (key) => positions.get(key)!
  const recordings = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  const someCount = recordings.some(({ gear }) => counts(plan, gear.kind))
  const counted = (end: End) => !someCount || counts(plan, end.gear.kind)
  const memo = new Map<string, Label[]>()
  let evaluations = 0
  let best: SearchResult | undefined

  const all = free.map(({ control }) => positionsOf(control))
  const narrow = narrowing(
    graph,
    plan,
    free,
    tree.nextOf,
    tree.endsAt,
    quest.leastHeadroom / 10,
    quest.mostMiss / 10,
  )
  const whole = narrow({
    low: new Int32Array(free.length),
    high: Int32Array.from(all, (each) => each.length - 1),
  })
  if (!whole) return undefined
  /** Positions that the demands leave to a control, whatever the others do. */
  const leftOf = new Map(
    free.map(({ key }, index) => [key, all[index]!.slice(whole.low[index]!, whole.high[index]! + 1)]),
  )

  /** Every node's own choices, and what they come to where neither the level nor an entangled control decides. */
  const choicesAt = graph.nodes.map(({ controls }) =>
    choicesOf(
      controls
        .filter((key) => freeByKey.has(key) && !tree.entangled.has(key))
        .map((key) => [key, leftOf.get(key)!]),
    ),
  )
  const prepared = graph.nodes.map(({ stage, kind, controls }) =>
    stage?.kind === 'agc' ||
    stage?.kind === 'limiter' ||
    kind === 'sum' ||
    controls.some((key) => tree.entangled.has(key))
      ? undefined
      : new Map<Choice, Map<number, Prepared>>(),
  )
  function effectAt(node: Node, flow: Flow, choice: Choice): Prepared {
    const known = prepared[node.index]
    const found = known?.get(choice)?.get(flow.sourceOhm)
    if (found) return found
    const effect = node.effect(flow, at)
    const gain = noisePower(effect.typicalGainDb)
    const made = {
      effect,
      gain,
      added: noisePower(effect.outputNoiseDb) / gain + noisePower(effect.inputNoiseDb),
    }
    if (known) known.set(choice, (known.get(choice) ?? new Map<number, Prepared>()).set(flow.sourceOhm, made))
    return made
  }

  /** Whether what was just computed looked at an entangled control; what did not holds for all their positions. */
  let touched = false
  const settled = new Map<string, Label[]>()
  /** Own positions at a node and level that are not ruled out whatever the entangled controls do. */
  const alive = new Map<string, Choice[]>()

  /** Labels of everything from a node on, for sources arriving as given. */
  function from(index: number, flows: readonly Flow[], came: number): Label[] {
    const place = `${index}<${came}|${flows.map(flowKey).join()}`
    const always = settled.get(place)
    if (always) return always
    const key = `${place}|${tree.conditionedBehind[index]!.map((each) => positions.get(each)).join()}`
    const known = memo.get(key)
    if (known) {
      touched = true
      return known
    }
    const node = graph.nodes[index]!
    const labels: Label[] = []
    const before = touched
    let anyTouched = false
    const choices = alive.get(place) ?? choicesAt[index]!
    const left = choices.filter((choice) => {
      touched = false
      for (const [control, position] of choice) positions.set(control, position)
      const found = through(node, flows, choice, came)
      for (const label of found) insert(labels, label, noWorse)
      anyTouched ||= touched
      return touched || found.length > 0
    })
    for (const [control] of choicesAt[index]![0] ?? []) positions.set(control, freeByKey.get(control)!.now)
    if (anyTouched) {
      alive.set(place, left)
      memo.set(key, labels)
    } else settled.set(place, labels)
    touched = before || anyTouched
    return labels
  }

  function through(node: Node, flows: readonly Flow[], choice: Choice, came: number): Label[] {
    touched ||= node.kind === 'sum' || node.controls.some((key) => tree.entangled.has(key))
    const effects = flows.map((flow) => effectAt(node, flow, choice))
    evaluations += flows.length
    const after = flows.map((flow, index) => flowAfter(flow, effects[index]!.effect))
    let headroom = Infinity
    effects.forEach(({ effect }, index) => {
      headroom = Math.min(
        headroom,
        tenths(effect.inputCeilingDb - loudestPeakDb(flows[index]!)),
        tenths(effect.outputCeilingDb - loudestPeakDb(after[index]!)),
      )
    })
    if (headroom < quest.leastHeadroom) return []
    let miss = 0
    let ended: number[] = flows.map(() => -Infinity)
    for (const end of tree.endsAt[node.index]!) {
      const window = windowOf(plan.school, aimOf(end))
      for (const flow of after) miss = Math.max(miss, tenths(outsideDb(window, loudestPeakDb(flow))))
      if (counted(end)) ended = flows.map(() => 0)
    }
    if (miss > quest.mostMiss) return []
    const changes = choice.filter(([control, position]) => position !== freeByKey.get(control)!.now).length
    let combined: Label[] = [{ noise: ended, headroom, miss, changes, choice, behind: [] }]
    for (const next of tree.nextOf[node.index]!) {
      if (combined.length === 0) break
      const behind = from(next, after, node.index)
      const joined: Label[] = []
      for (const one of combined)
        for (const other of behind)
          insert(
            joined,
            {
              noise: one.noise.map((power, index) => Math.max(power, other.noise[index]!)),
              headroom: Math.min(one.headroom, other.headroom),
              miss: Math.max(one.miss, other.miss),
              changes: one.changes + other.changes,
              choice,
              behind: [...one.behind, other],
            },
            noWorse,
          )
      combined = joined
    }
    const beside = besideAt(graph, node, came, at)
    // what was joined is nobody else's yet
    for (const label of combined)
      label.noise = label.noise.map(
        (power, index) => power / effects[index]!.gain + effects[index]!.added + beside,
      )
    return combined
  }

  const better = (one: Score, other: Score) =>
    quest.best === 'headroom'
      ? other.headroomDb - one.headroomDb
      : quest.best === 'miss'
        ? one.outsideDb - other.outsideDb
        : compareScores(one, other)

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
      answers = undominated(answers, quest.best)
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
      if (best && better(score, best.score) >= 0) continue
      const found = new Map(entangled.map(({ key }) => [key, positions.get(key)!]))
      answer.labels.forEach(function collect(label: Label) {
        for (const [control, position] of label.choice) found.set(control, position)
        label.behind.forEach(collect)
      })
      best = { score, positions: found, evaluations: 0 }
    }
  }

  if (entangled.length === 0) {
    if (!cancelled()) trees()
    return best && !cancelled() ? { ...best, evaluations } : undefined
  }
  return branch()

  /**
   * Entangled controls, best first: a box of their positions is split until it holds one combination, for which the
   * trees are solved. A box whose bounds break a demand, or do no better than what is found, is dropped whole.
   */
  function branch(): SearchResult | undefined {
    const bounds = boundsOn(graph, plan, free, tree.nextOf, tree.endsAt, counted)
    const places = entangled.map((each) => free.indexOf(each))
    const open = new Heap<{ box: Box; score: Score }>((one, other) => better(one.score, other.score))
    const put = (asked: Box) => {
      const box = narrow(asked)
      if (!box) return
      const { headroom, miss, worstDb, changes } = bounds(box)
      evaluations += graph.nodes.length
      if (headroom < quest.leastHeadroom || miss > quest.mostMiss) return
      const score: Score = {
        overDb: Math.max(0, margin - headroom) / 10,
        outsideDb: miss / 10,
        speechToNoiseDb: worstDb,
        headroomDb: headroom / 10,
        changes,
      }
      if (!best || better(score, best.score) < 0) open.push({ box, score })
    }
    put(whole!)
    for (let next = open.pop(); next; next = open.pop()) {
      if (cancelled()) return undefined
      // the best that is left is no better than what is found: neither is anything else
      if (best && better(next.score, best.score) >= 0) break
      const { low, high } = next.box
      const widest = places.reduce((one, other) =>
        high[other]! - low[other]! > high[one]! - low[one]! ? other : one,
      )
      if (high[widest] === low[widest]) {
        places.forEach((place, index) => positions.set(entangled[index]!.key, all[place]![low[place]!]!))
        trees()
        continue
      }
      const middle = (low[widest]! + high[widest]!) >> 1
      const below: Box = { low, high: high.slice() }
      const above: Box = { low: low.slice(), high }
      below.high[widest] = middle
      above.low[widest] = middle + 1
      put(below)
      put(above)
    }
    return best ? { ...best, evaluations } : undefined
  }
}

/** Speech over all noise for one source; Infinity when no recording behind counts. */
const ratioDb = (origin: Origin, power: number): number =>
  power === -Infinity ? Infinity : origin.typicalDb - powerDb(power + noisePower(origin.placeNoiseDb))

const flowKey = (flow: Flow): string =>
  `${Math.round(flow.quietestDb * 1e5)}/${Math.round(flow.typicalDb * 1e5)}/${Math.round(flow.loudestDb * 1e5)}/${Math.round(flow.sourceOhm * 1e3)}/${flow.source}`

/** Adds a label unless another is as good in everything; drops those it makes needless. */
function insert(labels: Label[], label: Label, noWorse: (one: Label, other: Label) => boolean): void {
  for (const other of labels) if (noWorse(other, label)) return
  for (let index = labels.length - 1; index >= 0; index--)
    if (noWorse(label, labels[index]!)) labels.splice(index, 1)
  labels.push(label)
}

/** Whether one label can stand for another, by what is sought. Demands are met by both. */
const noWorseFor: Record<Quest['best'], (one: Label, other: Label) => boolean> = {
  headroom: (one, other) => one.headroom >= other.headroom,
  miss: (one, other) => one.miss <= other.miss,
  everything: (one, other) => {
    if (one.headroom < other.headroom || one.changes > other.changes) return false
    for (let index = 0; index < one.noise.length; index++)
      if (one.noise[index]! > other.noise[index]!) return false
    return true
  },
}

/** The answers for all trees so far, without those that another stands for. */
function undominated<T extends { worst: number; headroom: number; miss: number; changes: number }>(
  all: T[],
  best: Quest['best'],
): T[] {
  const kept: T[] = []
  const order = (one: T, other: T) =>
    best === 'headroom'
      ? other.headroom - one.headroom
      : best === 'miss'
        ? one.miss - other.miss
        : other.worst - one.worst
  for (const each of [...all].sort(order)) {
    const covered =
      best === 'everything'
        ? kept.some((one) => one.headroom >= each.headroom && one.changes <= each.changes)
        : kept.length > 0
    if (!covered) kept.push(each)
  }
  return kept
}

/** Calls back with every combination of positions, a list of [key, position]. Once with an empty list for no controls. */
export function forEachChoice(controls: readonly FreeControl[], visit: (choice: Choice) => void): void {
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

/** Every combination of the positions that are left to some controls. */
function choicesOf(controls: readonly (readonly [key: string, positions: readonly Position[]])[]): Choice[] {
  return controls.reduce<Choice[]>(
    (choices, [key, positions]) =>
      choices.flatMap((choice) => positions.map((position) => [...choice, [key, position] as const])),
    [[]],
  )
}

/** The graph seen as trees from its origins to its recordings, and the controls that keep it from being one. */
function treeOf(graph: Graph) {
  const toEnd = graph.nodes.map(() => false)
  const recordings = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  for (const { node } of recordings) toEnd[node] = true
  for (const { index, feeds } of [...graph.nodes].reverse())
    if (toEnd[index]) for (const feed of feeds) toEnd[feed] = true
  const nextOf = graph.nodes.map(({ index }) =>
    graph.nodes.filter((node) => toEnd[node.index] && node.feeds.includes(index)).map((node) => node.index),
  )
  const endsAt = graph.nodes.map(({ index }) => recordings.filter(({ node }) => node === index))

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
  // where anything is entangled, bounds over boxes of all controls rule out more than trees of the others do
  if (entangled.size) for (const key of uses.keys()) entangled.add(key)

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
