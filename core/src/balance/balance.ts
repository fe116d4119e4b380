import {
  type Control,
  type Edit,
  type Patch,
  type Position,
  positionsOf,
  type Shelf,
  shelfFor,
} from '../model'
import {
  type At,
  earDbSpl,
  type Graph,
  graphOf,
  type Levels,
  levelsOfGraph,
  type Node,
  safeListeningDbSpl,
  stageActs,
  unlinkIdle,
} from '../levels'
import { compareScores, type Score, scoreOf, tenths } from './objective'
import type { FreeControl } from './free-control'
import { bestPositions } from './search'

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
  /** Why it ends where it ends, and what to give up when nothing fits. Sentences for a person. */
  reasons: string[]
  /** Levels with the proposed positions. */
  levels: Levels
  combinations: number
  evaluations: number
}

/**
 * The best positions of all controls that are not locked, together, and why. Automatic gain that can be switched
 * off is switched off first: a balance with it would hold only until the next pause.
 *
 * @returns undefined when cancelled
 */
export function balance(patch: Patch, shelf: Shelf, cancelled?: () => boolean): Balance | undefined {
  const graph = graphOf(patch, shelf)
  const now = new Map(graph.settings)
  const forced = automaticOff(graph, patch, shelf)
  for (const [key, position] of forced) graph.settings.set(key, position)
  unlinkIdle(graph)
  const free = freeControls(graph, patch, shelf)
  const found = bestPositions(graph, patch.plan, free, cancelled)
  if (cancelled?.()) return undefined
  const at =
    (positions: ReadonlyMap<string, Position>): At =>
    (key) =>
      positions.get(key)!
  const proposed = new Map([...graph.settings, ...(found?.positions ?? [])])
  for (const [key, position] of quieterEars(graph, free, at(proposed))) proposed.set(key, position)
  const moved = [...proposed].filter(([key, position]) => now.get(key) !== position)
  const levelsNow = levelsOfGraph(graph, at(now))
  const before = scoreOf(levelsNow, patch.plan, 0)
  const levels = levelsOfGraph(graph, at(proposed))
  const after = scoreOf(levels, patch.plan, moved.length)
  const changes = moved.map(([key, to]): Change => {
    const [part, control] = key.split('.') as [string, string]
    const alone = levelsOfGraph(graph, at(new Map([...now, [key, to]])))
    const aloneDb = scoreOf(alone, patch.plan, 1).speechToNoiseDb - before.speechToNoiseDb
    return { part, control, from: now.get(key)!, to, aloneDb: Number.isFinite(aloneDb) ? aloneDb : 0 }
  })
  const fits = tenths(after.overDb) === 0 && tenths(after.outsideDb) === 0
  return {
    fits,
    before,
    after,
    changes: compareScores(after, before) < 0 ? changes : [],
    reasons: [...nothingToMove(free, patch, shelf), ...reasonsFor(levels, after, patch, fits)],
    levels,
    combinations: free.reduce((product, { control }) => product * positionsOf(control).length, 1),
    evaluations: found?.evaluations ?? 0,
  }
}

/**
 * Positions that keep ears safe with the recordings as they are: for each control that reaches nothing but ears, the
 * nearest to where it stands at which none of them is over the safe level. Turned only when one is.
 */
function quieterEars(graph: Graph, free: readonly FreeControl[], at: At): Map<string, Position> {
  const changed = new Map<string, Position>()
  const now: At = (key) => changed.get(key) ?? at(key)
  const loud = () =>
    levelsOfGraph(graph, now).runs.filter(
      (run) => run.end.kind === 'listen' && earDbSpl(run) > safeListeningDbSpl,
    )
  const levels = levelsOfGraph(graph, now)
  const forEars = free.filter(({ key }) => {
    const reached = levels.reach[key] ?? []
    return (
      reached.length > 0 &&
      reached.every((id) => levels.runs.find((run) => run.id === id)!.end.kind === 'listen')
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
    .map(({ key, control }) => ({ key, control, now: graph.settings.get(key)! }))
}

/** Every control of a patch, by `part.control`. */
export function controlsOfPatch(
  patch: Patch,
  shelf: Shelf,
): { key: string; control: Control; locked: boolean }[] {
  const all = shelfFor(patch, shelf)
  return [...patch.boxes, ...patch.links.flatMap(({ through }) => through)].flatMap((part) =>
    all.get(part.gear)!.controls.map((control) => ({
      key: `${part.id}.${control.id}`,
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
    const key = `${part}.${stage.when.control}`
    const entry = controls.get(key)
    if (!entry || entry.locked || !stageActs(stage, part, (each) => graph.settings.get(each)!)) continue
    const manual = positionsOf(entry.control).find((position) => !stage.when!.is.includes(`${position}`))
    if (manual !== undefined) off.set(key, manual)
  }
  return off
}

/** Why Balance has nothing to move, where it has nothing. */
function nothingToMove(free: readonly FreeControl[], patch: Patch, shelf: Shelf): string[] {
  if (free.length > 0) return []
  return controlsOfPatch(patch, shelf).some(({ locked }) => locked)
    ? ['Every control that could change a level is locked: unlock one, and balance again.']
    : ['No control of this chain changes a level.']
}

function reasonsFor(levels: Levels, after: Score, patch: Patch, fits: boolean): string[] {
  const reasons: string[] = []
  const runs = levels.runs.filter(({ tightest, end }) => tightest && end.kind === 'recording')
  const binding = runs.reduce<(typeof runs)[number] | undefined>(
    (best, run) =>
      !best || run.tightest!.ceiling.headroomDb < best.tightest!.ceiling.headroomDb ? run : best,
    undefined,
  )
  if (binding) {
    const { point, ceiling } = binding.tightest!
    const place = binding.points[point]!
    reasons.push(
      `The ceiling met first is ${place.partName}, ${place.name.toLowerCase()}, ${
        ceiling.headroomDb < 0
          ? `passed by ${(-ceiling.headroomDb).toFixed(1)} dB`
          : `with ${ceiling.headroomDb.toFixed(1)} dB to spare`
      }.`,
    )
  }
  const recordings = levels.runs.filter(({ end }) => end.kind === 'recording')
  const worst = recordings.reduce<(typeof recordings)[number] | undefined>(
    (low, run) => (!low || run.speechToNoiseDb < low.speechToNoiseDb ? run : low),
    undefined,
  )
  if (worst) {
    const share = worst.shares[0]
    const byPlace = worst.overBoxesDb - worst.speechToNoiseDb > 3
    reasons.push(
      byPlace
        ? `The noise of the place limits ${worst.end.boxName}, ${worst.end.name}: the boxes alone would leave ${worst.overBoxesDb.toFixed(1)} dB.`
        : share
          ? `On ${worst.end.boxName}, ${worst.end.name} ${share.partName}, ${share.name.toLowerCase()} makes ${Math.round(share.share * 100)} % of the hiss.`
          : `On ${worst.end.boxName} the boxes add nothing.`,
    )
  }
  if (fits) return reasons
  if (tenths(after.overDb) > 0 && binding)
    reasons.unshift(
      `No setting keeps ${patch.plan.marginDb} dB under every ceiling: ${after.overDb.toFixed(1)} dB are missing. A pad of ${Math.ceil(after.overDb)} dB or more before ${binding.points[binding.tightest!.point]!.partName} would cure it, or a smaller margin.`,
    )
  else if (tenths(after.outsideDb) > 0)
    reasons.unshift(
      `No setting brings every recording into the window of the ${patch.plan.school} school: the worst stays ${after.outsideDb.toFixed(1)} dB outside. Another school, or a step of gain that is finer, would cure it.`,
    )
  return reasons
}
