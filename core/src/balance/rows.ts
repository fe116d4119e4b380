import { chainOf, noisePower, type Reading, tableOf } from '../chain'
import { outsideDb } from '../levels'
import { amplitudeDb, powerDb } from '../units'
import type { AimedRecording } from './aims'
import { compareFor, keeps } from './branches'
import { compareMissing, compareWorstFirst, mostFirst, type Score, tenths, worstFirst } from './objective'
import { type Choice, forEachIn, type Region } from './positions'
import type { Demands, Found, Problem } from './problem'

/*
 * Where no mix, no shared control and no stage that follows the level entangles a chain, it is a row from each entry
 * that may branch but never join. Such rows are solved backwards from their ends by label setting.
 */

/**
 * A partial answer for everything from a node to all recordings behind it. The lists have a figure for each of those:
 * the noise that it collects, as power at the entry of the node, and what is missing to its margin and to its window, in
 * tenths of a dB. Rounding is monotone: rounding early and late give the same minimum and maximum.
 */
interface Label {
  noise: readonly number[]
  over: readonly number[]
  outside: readonly number[]
  /** The least of all headrooms, in tenths. */
  headroom: number
  /** Controls moved. */
  changes: number
  /** Stops chosen at this node, as knob and stop in turn. */
  chosen: readonly number[]
  behind: readonly Label[]
}

/** Whether a problem is one of rows. */
export function isRows({ graph, aims, positions }: Pick<Problem, 'graph' | 'aims' | 'positions'>): boolean {
  const uses = new Map<number, number>()
  for (const { index, feeds, stage } of graph.nodes) {
    if (!aims.leadsToRecording[index]) continue
    if (feeds.length > 1) return false
    if (stage && ['agc', 'limiter', 'duck'].includes(stage.kind) && mayFollow(positions, index)) return false
    for (const knob of positions.own[index]!) uses.set(knob, (uses.get(knob) ?? 0) + 1)
  }
  return [...uses.values()].every((count) => count === 1)
}

const mayFollow = (positions: Problem['positions'], node: number): boolean =>
  positions.own[node]!.length > 0 || positions.reading(node, positions.now).follows !== undefined

export function searchRows(problem: Problem, demands: Demands, region: Region): Found | undefined {
  const search = new RowSearch(problem, demands, region)
  const roots = problem.graph.nodes.flatMap(({ index, feeds }) =>
    feeds.length === 0 && problem.aims.leadsToRecording[index] ? [index] : [],
  )
  let answers: Answer[] = [emptyAnswer]
  for (const root of roots) {
    if (problem.cancelled()) return undefined
    const own = best(
      search.labelsFrom(root, 0).map((label) => search.answerOf(root, label)),
      demands.goal,
    )
    answers = best(
      answers.flatMap((answer) => own.map((other) => together(answer, other))),
      demands.goal,
    )
    if (answers.length === 0) return undefined
  }
  let found: Found | undefined
  for (const answer of answers) {
    const score = scoreOfAnswer(answer)
    if (keeps(score, demands) && (!found || compareFor[demands.goal](score, found.score) < 0))
      found = { score, choice: search.choiceOf(answer) }
  }
  return found
}

/** A stop of each of a node's knobs, with the reading there. */
interface Setting {
  chosen: number[]
  reading: Reading
  changes: number
}

const deadDb = -200

/** Label setting over one problem. */
class RowSearch {
  private readonly known = new Map<string, Label[]>()
  private readonly settings: readonly Setting[][]
  private readonly next: readonly (readonly number[])[]
  /** Loudest peak before and after each node, for a gain of 0 dB from the entry. */
  private readonly peakBeforeDb: Float64Array
  private readonly peakAfterDb: Float64Array

  constructor(
    private readonly problem: Problem,
    private readonly demands: Demands,
    region: Region,
  ) {
    const { graph, aims, positions } = problem
    this.next = graph.nodes.map(({ index }) =>
      graph.nodes
        .filter((node) => aims.leadsToRecording[node.index] && node.feeds.includes(index))
        .map((node) => node.index),
    )
    const chain = chainOf(graph, positions.readings(positions.now))
    const gainDb = new Float64Array(graph.nodes.length)
    this.peakBeforeDb = new Float64Array(graph.nodes.length)
    this.peakAfterDb = new Float64Array(graph.nodes.length)
    for (const { index, feeds, stop } of graph.nodes) {
      const before = feeds.length ? gainDb[feeds[0]!]! : 0
      gainDb[index] = before + chain.readings[index]!.gainDb + (stop ? deadDb : 0)
      this.peakBeforeDb[index] = amplitudeDb(chain.peakBefore(index)) - before
      this.peakAfterDb[index] = amplitudeDb(chain.peakAfter(index)) - gainDb[index]
    }
    this.settings = graph.nodes.map(({ index }) => settingsIn(positions, index, region))
  }

  /** Recordings behind a node, in the order of the lists of its labels. */
  private recordingsFrom(node: number): AimedRecording[] {
    const here = this.problem.aims.recordings.filter(({ end }) => end.node === node)
    return [...here, ...this.next[node]!.flatMap((next) => this.recordingsFrom(next))]
  }

  /** Labels of everything behind a node, for a given gain from the entry. */
  labelsFrom(node: number, gainDb: number): Label[] {
    const key = `${node} ${Math.round(gainDb * 1e5)}`
    const found = this.known.get(key)
    if (found) return found
    const labels: Label[] = []
    for (const setting of this.settings[node]!)
      for (const label of this.through(node, gainDb, setting)) insert(labels, label, this.demands.goal)
    this.known.set(key, labels)
    return labels
  }

  private through(node: number, gainDb: number, { chosen, reading, changes }: Setting): Label[] {
    const { aims, count, graph } = this.problem
    count(1)
    const afterDb = gainDb + reading.gainDb + (graph.nodes[node]!.stop ? deadDb : 0)
    const here = aims.recordings.filter(({ end }) => end.node === node)
    const peakDb = this.peakAfterDb[node]! + afterDb
    let combined: Label[] = [
      {
        noise: here.map(() => 0),
        over: here.map(() => 0),
        outside: here.map(({ window }) => tenths(outsideDb(window, peakDb))),
        headroom: Infinity,
        changes,
        chosen,
        behind: [],
      },
    ]
    for (const each of this.next[node]!) {
      const joined: Label[] = []
      for (const one of combined)
        for (const other of this.labelsFrom(each, afterDb))
          insert(joined, sideBySide(one, other), this.demands.goal)
      combined = joined
    }
    const { enoughHeadroomDb } = this.problem
    const headroom = this.headroomAt(node, reading, gainDb, afterDb)
    const held = this.recordingsFrom(node).map((recording) =>
      aims.ceilingsFor[node]!.includes(aims.recordings.indexOf(recording)),
    )
    const missing = Math.max(0, tenths(aims.marginDb) - headroom)
    const gain = noisePower(reading.gainDb)
    const added = noisePower(reading.inputNoiseDb) + noisePower(reading.outputNoiseDb) / gain
    return combined
      .map((label): Label => ({
        ...label,
        noise: label.noise.map((power) => power / gain + added),
        over: label.over.map((over, index) => (held[index] ? Math.max(over, missing) : over)),
        headroom: held.includes(true)
          ? Math.min(label.headroom, headroom, tenths(enoughHeadroomDb))
          : label.headroom,
      }))
      .filter(
        ({ over, outside }) =>
          over.every((each) => each <= tenths(this.demands.mostOverDb)) &&
          outside.every((each) => each <= tenths(this.demands.mostOutsideDb)),
      )
  }

  private headroomAt(node: number, reading: Reading, gainDb: number, afterDb: number): number {
    return Math.min(
      tenths(reading.inputCeilingDb - this.peakBeforeDb[node]! - gainDb),
      tenths(reading.outputCeilingDb - this.peakAfterDb[node]! - afterDb),
    )
  }

  /** The result of a row with one label. */
  answerOf(root: number, label: Label): Answer {
    const { graph } = this.problem
    const table = tableOf(graph)
    const entry = graph.entryNoises.findIndex(({ node }) => node === root)
    const ratios = this.recordingsFrom(root).flatMap(({ sources, end, counts }, index) => {
      if (!counts) return []
      const levelDb = Math.min(
        ...graph.origins.flatMap((origin, at) =>
          origin.node === root && sources.includes(table.sourceOfOrigin[at]!) ? [origin.typicalDb] : [],
        ),
      )
      const place = entry < 0 ? 0 : table.entryNoiseLeft(entry, this.filterAt(end.node)).weighted
      const boxes = label.noise[index]!
      return [{ all: levelDb - powerDb(boxes + place), boxes: levelDb - powerDb(boxes) }]
    })
    return {
      all: worstFirst(ratios.map(({ all }) => all)),
      boxes: worstFirst(ratios.map(({ boxes }) => boxes)),
      over: mostFirst(label.over),
      outside: mostFirst(label.outside),
      headroom: label.headroom,
      changes: label.changes,
      labels: [label],
    }
  }

  /** The low-cuts on the way to a node, by number. */
  private filterAt(node: number): number {
    const { graph, positions } = this.problem
    const { feeds } = graph.nodes[node]!
    const before = feeds.length ? this.filterAt(feeds[0]!) : 0
    const { lowCutHz } = positions.reading(node, positions.now)
    return lowCutHz === undefined ? before : tableOf(graph).withLowCut(before, lowCutHz)
  }

  choiceOf({ labels }: Answer): Choice {
    const choice = this.problem.positions.now.slice()
    const collect = ({ chosen, behind }: Label): void => {
      for (let index = 0; index < chosen.length; index += 2) choice[chosen[index]!] = chosen[index + 1]!
      behind.forEach(collect)
    }
    labels.forEach(collect)
    return choice
  }
}

function settingsIn(positions: Problem['positions'], node: number, region: Region): Setting[] {
  const own = positions.own[node]!
  const list: Setting[] = []
  forEachIn(region, own, positions.now, (choice) => {
    list.push({
      chosen: own.flatMap((knob) => [knob, choice[knob]!]),
      reading: positions.reading(node, choice),
      changes: positions.changes(choice),
    })
  })
  return list
}

/** Two branches of one node as one label. */
const sideBySide = (one: Label, other: Label): Label => ({
  noise: [...one.noise, ...other.noise],
  over: [...one.over, ...other.over],
  outside: [...one.outside, ...other.outside],
  headroom: Math.min(one.headroom, other.headroom),
  changes: one.changes + other.changes,
  chosen: one.chosen,
  behind: [...one.behind, other],
})

/** Adds a label unless another dominates it; removes those it dominates. */
function insert(labels: Label[], label: Label, goal: Demands['goal']): void {
  const noWorse = noWorseFor[goal]
  for (const other of labels) if (noWorse(other, label)) return
  for (let index = labels.length - 1; index >= 0; index--)
    if (noWorse(label, labels[index]!)) labels.splice(index, 1)
  labels.push(label)
}

const noneMore = (one: readonly number[], other: readonly number[]): boolean => {
  for (let index = 0; index < one.length; index++) if (one[index]! > other[index]!) return false
  return true
}

/** Whether one label dominates another for the given objective. */
const noWorseFor: Record<Demands['goal'], (one: Label, other: Label) => boolean> = {
  missing: (one, other) => noneMore(one.over, other.over) && noneMore(one.outside, other.outside),
  everything: (one, other) =>
    one.headroom >= other.headroom &&
    one.changes <= other.changes &&
    noneMore(one.noise, other.noise) &&
    noneMore(one.over, other.over) &&
    noneMore(one.outside, other.outside),
}

/** Combined result of some of the rows. */
interface Answer {
  all: readonly number[]
  boxes: readonly number[]
  over: readonly number[]
  outside: readonly number[]
  headroom: number
  changes: number
  labels: readonly Label[]
}

const emptyAnswer: Answer = {
  all: [],
  boxes: [],
  over: [],
  outside: [],
  headroom: Infinity,
  changes: 0,
  labels: [],
}

const together = (one: Answer, other: Answer): Answer => ({
  all: worstFirst([...one.all, ...other.all]),
  boxes: worstFirst([...one.boxes, ...other.boxes]),
  over: mostFirst([...one.over, ...other.over]),
  outside: mostFirst([...one.outside, ...other.outside]),
  headroom: Math.min(one.headroom, other.headroom),
  changes: one.changes + other.changes,
  labels: [...one.labels, ...other.labels],
})

/**
 * Answers that can be part of the best. Rows have no recording in common, and lists compared worst first keep their
 * order whatever is added to both: only the best of a row can be in the best of all. Among those, headroom is weighed
 * against controls moved.
 */
function best(answers: readonly Answer[], goal: Demands['goal']): Answer[] {
  const demands = (one: Answer, other: Answer) =>
    compareMissing(one.over, other.over) || compareMissing(one.outside, other.outside)
  const order =
    goal === 'missing'
      ? demands
      : (one: Answer, other: Answer) =>
          demands(one, other) ||
          compareWorstFirst(one.all, other.all) ||
          compareWorstFirst(one.boxes, other.boxes)
  const first = answers.reduce<Answer | undefined>(
    (one, other) => (one && order(one, other) <= 0 ? one : other),
    undefined,
  )
  const covers = (one: Answer, other: Answer) =>
    one.headroom >= other.headroom && one.changes <= other.changes
  const kept: Answer[] = []
  for (const each of answers) {
    if (order(each, first!) !== 0 || kept.some((one) => covers(one, each))) continue
    for (let index = kept.length - 1; index >= 0; index--)
      if (covers(each, kept[index]!)) kept.splice(index, 1)
    kept.push(each)
  }
  return kept
}

const scoreOfAnswer = (answer: Answer): Score => ({
  overDb: answer.over.map((each) => each / 10),
  outsideDb: answer.outside.map((each) => each / 10),
  speechToNoiseDb: [...answer.all],
  overBoxesDb: [...answer.boxes],
  headroomDb: answer.headroom / 10,
  changes: answer.changes,
})
