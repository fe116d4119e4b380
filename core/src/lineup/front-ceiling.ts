import type { Point, Run } from '../levels'
import { type CeilingShape, type ClipReading, type LineUpReading, lastOf } from '../model'
import type { Bench, ToneWay } from './bench'
import { keyOf } from './level-control'
import { hiddenCeiling } from './overload'
import { lawOfControl, sentOffDb } from './readings'
import { controlOfWay } from './tone-steps'

/** The ceiling in front of a level control as a hot tone shows it: where it lies, or up to where there is none. */
export type FrontCeiling = {
  point: Point
  field: 'inputCeilingDbu' | 'outputCeilingDbu'
  plannedDbu: number
  /** How sure the gain behind it is, dB. */
  gainToleranceDb: number
} & (
  | { kind: 'met'; ceilingDbfs: number; ceilingDbu: number; shape: CeilingShape }
  | { kind: 'not met'; upToDbu: number }
)

/** The ceiling in front of the level control as a clip of a hot tone shows it. */
export function frontCeiling(
  bench: Bench,
  way: ToneWay,
  { settings, playedDbfs }: LineUpReading,
  clip: ClipReading,
): FrontCeiling | undefined {
  const control = controlOfWay(bench, way)
  const hidden = control && hiddenCeiling(bench, way, control)
  const run = bench.runAt(way.run.id, settings)
  if (!control || !hidden || !run || way.sender === undefined || playedDbfs === null) return undefined
  const front = run.points.find(({ node }) => node === hidden.point.node)
  if (!front) return undefined
  const position = control.positions.indexOf(settings[keyOf(way.run.end.box, control)]!)
  // the law as known by now, compared with the one used for the levels
  const { points } = lawOfControl(bench, way, control).law
  const learntDb = position < 0 ? 0 : points[position]!.gainDb - control.gainsDb[position]!
  const atInput = gainBefore(run, front)
  const stageDb = hidden.at === 'input' ? 0 : front.gainFromSourceDb - atInput
  const field = hidden.at === 'input' ? ('inputCeilingDbu' as const) : ('outputCeilingDbu' as const)
  const gainToleranceDb = position < 0 ? 0 : points[position]!.toleranceDb
  const known = { point: front, field, plannedDbu: hidden.levelDb, gainToleranceDb }
  if (clip.ceilingDbfs === null) {
    const sentDbu = playedDbfs + sentOffDb(bench, way) + atInput - run.points[way.sender]!.gainFromSourceDb
    return { ...known, kind: 'not met', upToDbu: sentDbu + stageDb }
  }
  const toFileDb = lastOf(run.points).gainFromSourceDb - atInput + learntDb
  return {
    ...known,
    kind: 'met',
    ceilingDbfs: clip.ceilingDbfs,
    ceilingDbu: clip.ceilingDbfs - toFileDb + stageDb,
    shape: clip.ceilingShape ?? 'flat',
  }
}

/** Gain from the source to the input of a point. */
function gainBefore({ points }: Run, point: Point): number {
  return points[points.indexOf(point) - 1]?.gainFromSourceDb ?? 0
}
