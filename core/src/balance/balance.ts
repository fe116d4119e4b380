import { type PositionOf, chainOf, type Graph, graphOf, type Node, stageActs, asSet } from '../chain'
import { earDbSpl, type Levels, levelsOfGraph, safeListeningDbSpl } from '../levels'
import { type Reason, reason } from '../findings'
import type { Edit } from '../edits'
import {
  type Control,
  type Patch,
  type Position,
  positionsOf,
  type Shelf,
  shelfFor,
  controlKey,
  gearOf,
  partsOf,
} from '../model'
import { type Aims, aimsOf, scoreOf } from './aims'
import { boundsOn } from './bounds'
import { bestPositions } from './demands'
import type { FreeControl } from './free-control'
import { compareScores, meetsDemands, type Score, worstRatioDb } from './objective'
import { keptRegion } from './narrowing'
import { Positions } from './positions'
import { suppliesOn } from './power'
import { reasonsFor } from './reasons'

/** One control that Balance would move. */
export interface Change {
  part: string
  control: string
  from: Position
  to: Position
  /** Speech-to-noise of the worst recording that counts, with this change alone, minus without it, dB. */
  aloneDb: number
}

/** Changes as edits of a patch. */
export const settingsOf = (changes: readonly Change[]): Edit[] =>
  changes.map(({ part, control, to }) => ({ kind: 'set control', part, control, position: to }))

export interface Balance {
  /** Whether every demand is met: margin under all ceilings, peaks in the window, ears safe. */
  fits: boolean
  before: Score
  after: Score
  changes: Change[]
  /** What limits the result, and what to give up when nothing fits. */
  reasons: Reason[]
  /** Levels with the proposed positions. */
  levels: Levels
  combinations: number
  evaluations: number
  /**
   * Where the work allowed ran out before every combination was ruled out: by how much speech-to-noise of the worst
   * recording that counts may still be better, dB. Left out: nothing is better.
   */
  mayGainDb?: number
}

/**
 * The best positions of all controls that are not locked, together, and why. What wants power gets it first, where a
 * switch that is not locked gives it and nothing is harmed. Automatic gain that can be switched off is switched off: a
 * balance with it would hold only until the next pause.
 *
 * @returns undefined when cancelled
 */
export function balance(
  patch: Patch,
  shelf: Shelf,
  cancelled?: () => boolean,
  mostEvaluations?: number,
): Balance | undefined {
  const graphNow = graphOf(patch, shelf)
  const now = new Map(graphNow.settings)
  const { powered, graph, aims, free } = searchedOf(patch, shelf)
  const found = bestPositions(graph, patch.plan, free, cancelled, mostEvaluations)
  if (cancelled?.()) return undefined
  const proposed = new Map([...graph.settings, ...(found?.positions ?? [])])
  for (const [key, position] of quieterEars(graph, free, at(proposed))) proposed.set(key, position)
  const moved = [...proposed].filter(([key, position]) => now.get(key) !== position)
  const scoreNow = scoreAt(graphNow, aimsOf(graphNow, patch.plan), at(now))
  const before = scoreNow(0)
  const after = scoreAt(graph, aims, at(proposed))(moved.length)
  const levels = levelsOfGraph(graph, at(proposed))
  const fits = aims.recordings.length > 0 && meetsDemands(after)
  const mayGainDb = found?.bound && Math.max(0, worstRatioDb(found.bound) - worstRatioDb(after))
  const better = compareScores(after, before) < 0 || powered.patch !== patch
  return {
    fits,
    before,
    after,
    changes: better ? moved.map(([key, to]) => changeOf(key, to, now, graphNow, aims, before)) : [],
    reasons: [
      ...powered.reasons,
      ...nothingHeard(aims),
      ...nothingToMove(free, patch, shelf),
      ...reasonsFor(levels, after, patch, free, mayGainDb === undefined),
      ...(mayGainDb === undefined ? [] : [reason('unproved', { mayGainDb })]),
    ],
    levels,
    combinations: free.reduce((product, { control }) => product * positionsOf(control).length, 1),
    evaluations: found?.evaluations ?? 0,
    ...(mayGainDb === undefined ? {} : { mayGainDb }),
  }
}

/** Prepares a patch for a balance: power switched on where it is needed, automatic gain off where possible. */
function searchedOf(patch: Patch, shelf: Shelf) {
  const powered = suppliesOn(patch, shelf)
  const graph = graphOf(powered.patch, shelf)
  const off = automaticOff(graph, patch, shelf)
  for (const [key, position] of off) graph.settings.set(key, position)
  return {
    powered,
    graph,
    /** Automatic gain was on. */
    automatic: off.size > 0,
    aims: aimsOf(graph, patch.plan),
    free: freeControls(graph, patch, shelf),
  }
}

/** Bounds that no balance of a patch can exceed. */
export interface Limit {
  /** Whether some setting may meet every demand; if false, none does. */
  mayFit: boolean
  /** Upper bound on every figure of the score over all settings, or over those that may meet all demands if there are any. */
  most: Score
}

/** The limit of a patch, without a search; undefined where automatic gain may be left on, which is worth what it happens to be. */
export function limitOf(patch: Patch, shelf: Shelf): Limit | undefined {
  const { graph, automatic, aims, free } = searchedOf(patch, shelf)
  if (automatic) return undefined
  const positions = new Positions(graph, free)
  const within = keptRegion({ graph, aims, positions })
  const most = boundsOn(graph, aims, positions)(within ?? positions.whole())
  return { mayFit: within !== undefined, most }
}

const at = (settings: ReadonlyMap<string, Position>): PositionOf => asSet({ settings })

/** The score at the present positions, given how many controls were moved. */
const scoreAt =
  (graph: Graph, aims: Aims, current: PositionOf) =>
  (changes: number): Score => {
    const readings = graph.nodes.map(({ read }) => read(current))
    return scoreOf(chainOf(graph, readings), aims, changes)
  }

function changeOf(
  key: string,
  to: Position,
  now: ReadonlyMap<string, Position>,
  graph: Graph,
  aims: Aims,
  before: Score,
): Change {
  const [part, control] = key.split('.') as [string, string]
  const alone = scoreAt(graph, aims, at(new Map([...now, [key, to]])))(1)
  const aloneDb = worstRatioDb(alone) - worstRatioDb(before)
  return { part, control, from: at(now)(key), to, aloneDb: Number.isFinite(aloneDb) ? aloneDb : 0 }
}

/**
 * Positions that keep ears safe with the recordings as they are: for each control that reaches nothing but ears, the
 * nearest to its current one at which none of them is over the safe level. Turned only when one is.
 */
function quieterEars(graph: Graph, free: readonly FreeControl[], current: PositionOf): Map<string, Position> {
  const changed = new Map<string, Position>()
  const now: PositionOf = (key) => changed.get(key) ?? current(key)
  const loud = () =>
    levelsOfGraph(graph, now).runs.filter(
      (run) => run.end.kind === 'listen' && earDbSpl(run) > safeListeningDbSpl,
    )
  const levels = levelsOfGraph(graph, now)
  const forEars = free.filter(({ key }) => {
    const reached = levels.reach[key] ?? []
    return (
      reached.length > 0 &&
      reached.every((id) => levels.runs.some((run) => run.id === id && run.end.kind === 'listen'))
    )
  })
  for (const { key, control, now: from } of forEars) {
    const positions = positionsOf(control)
    const order = [...positions.keys()].sort(
      (one, other) => Math.abs(one - positions.indexOf(from)) - Math.abs(other - positions.indexOf(from)),
    )
    for (const index of order) {
      if (!loud().some((run) => levels.reach[key]!.includes(run.id))) break
      changed.set(key, positions[index]!)
    }
  }
  return changed
}

const movable: ReadonlySet<Node['kind']> = new Set(['gain', 'pad', 'digital-gain', 'piece', 'junction'])

/** Controls that change levels and are not locked. */
export function freeControls(graph: Graph, patch: Patch, shelf: Shelf): FreeControl[] {
  const keys = new Set(
    graph.nodes.filter(({ kind }) => movable.has(kind)).flatMap(({ controls }) => controls),
  )
  return controlsOfPatch(patch, shelf)
    .filter(({ key, locked }) => keys.has(key) && !locked)
    .map(({ key, control }) => ({ key, control, now: asSet(graph)(key) }))
}

/** Every control of a patch, by `part.control`. */
export function controlsOfPatch(
  patch: Patch,
  shelf: Shelf,
): { key: string; control: Control; locked: boolean }[] {
  const all = shelfFor(patch, shelf)
  return partsOf(patch).flatMap((part) =>
    gearOf(all, part.gear).controls.map((control) => ({
      key: controlKey(part.id, control.id),
      control,
      locked: part.locked.includes(control.id),
    })),
  )
}

/** Switch positions that take automatic gain out, where the box has one and it is not locked. */
function automaticOff(graph: Graph, patch: Patch, shelf: Shelf): Map<string, Position> {
  const off = new Map<string, Position>()
  const controls = new Map(controlsOfPatch(patch, shelf).map((each) => [each.key, each]))
  for (const { stage, part } of graph.nodes) {
    if (stage?.kind !== 'agc' || !stage.when) continue
    const { control, is } = stage.when
    const key = controlKey(part, control)
    const entry = controls.get(key)
    if (!entry || entry.locked || !stageActs(stage, part, asSet(graph))) continue
    const manual = positionsOf(entry.control).find((position) => !is.includes(`${position}`))
    if (manual !== undefined) off.set(key, manual)
  }
  return off
}

/** Why there is nothing to balance: no sound arrives anywhere. */
const nothingHeard = ({ recordings }: Aims): Reason[] =>
  recordings.length > 0 ? [] : [reason('nothing heard', {})]

/** Why Balance has nothing to move, where it has nothing. */
function nothingToMove(free: readonly FreeControl[], patch: Patch, shelf: Shelf): Reason[] {
  if (free.length > 0) return []
  const anyLocked = controlsOfPatch(patch, shelf).some(({ locked }) => locked)
  return [reason(anyLocked ? 'all locked' : 'no control', {})]
}
