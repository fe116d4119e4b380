import type { Agc } from '../dynamics'
import type { Point } from '../levels'
import {
  type Amount,
  type Figure,
  type FigurePlace,
  type Gear,
  type LearntFigure,
  type LearntValue,
  lastOf,
  type LineUpReading,
  valueOf,
} from '../model'
import type { AutomaticGain } from './automatic-gain'
import { timesOfModel } from './automatic-model'
import { type Bench, gainBetween, isOfThing, placedBox, type ToneWay, toneWays } from './bench'
import { floorsOfWay } from './floors'
import { frontCeiling } from './front-ceiling'
import { lawOfControl } from './readings'
import type { Law } from './law'
import type { LevelControl } from './level-control'
import { alikePlaces, placeOfNode, valueAt } from './places'
import { controlOfWay } from './tone-steps'

/** A figure as the readings show it, beside what the thing has now. */
export type LearntChange = Omit<LearntFigure, 'id' | 'at'> & {
  /** What it is, for words. */
  kind: 'law' | 'ceiling' | 'shape' | 'floor' | 'automatic' | 'mark'
  /** By how much it moves; of a law where it moves most. dB, or ms of times. */
  movesDb: number
}

/** Everything that the readings say of a box. */
export interface Learnt {
  box: string
  boxName: string
  thing: Gear
  changes: LearntChange[]
}

/** Smallest change of a level worth learning, dB. */
const newsDb = 0.4
const clipToleranceDb = 0.5
/** Smallest relative change of a time constant worth learning. */
const newsShare = 0.15

/** What the readings of a scene say of its boxes, beyond what their figures say already. */
export function learntOf(bench: Bench): Learnt[] {
  const byBox = new Map<string, LearntChange[]>()
  const seen = new Set<string>()
  for (const way of toneWays(bench)) {
    const { box } = way.run.end
    if (seen.has(box)) continue
    seen.add(box)
    const changes = [
      ...lawChanges(bench, way),
      ...ceilingChanges(bench, way),
      ...floorChanges(bench, way),
      ...automaticChanges(bench, way),
      ...markChanges(bench, way),
    ]
    if (changes.length) byBox.set(box, changes)
  }
  return [...byBox].map(([box, changes]) => {
    const { gear, name } = placedBox(bench, box)
    return { box, boxName: name, thing: gear, changes }
  })
}

/** The newest reading of each step of a kind that was taken on this very box. */
export const readingsOf = (bench: Bench, box: string, kind: string): LineUpReading[] => {
  const newest = new Map<string, LineUpReading>()
  for (const reading of bench.patch.lineUp)
    if (
      reading.step.split(' ')[0] === kind &&
      reading.step.split(' ')[1] === box &&
      isOfThing(bench, reading, box)
    )
      newest.set(reading.step, reading)
  return [...newest.values()]
}

function lawChanges(bench: Bench, way: ToneWay): LearntChange[] {
  const control = controlOfWay(bench, way)
  if (!control) return []
  const { law, readings } = lawOfControl(bench, way, control)
  const used = readings.length - law.outliers.length
  if (used === 0 || law.contradictions.length) return []
  const moves = law.points.map(({ gainDb }, position) => gainDb - control.gainsDb[position]!)
  const movesDb = moves.reduce((most, each) => (Math.abs(each) > Math.abs(most) ? each : most), 0)
  // nothing is learnt where nothing was read
  const atRead = readings.map(({ position }) => moves[position]!)
  if (Math.max(...atRead.map(Math.abs)) < newsDb) return []
  const { gear } = placedBox(bench, way.run.end.box)
  const [first] = control.places
  const place = first!
  const places: FigurePlace[] = control.places
  return [
    {
      kind: 'law',
      places,
      name: control.control.name,
      source: sourceOf(readings.map(({ reading }) => reading)),
      before: valueAt(gear, place),
      toleranceDb: Math.min(200, Math.max(...law.points.map(({ toleranceDb }) => toleranceDb))),
      after: amountOf(control, law, place.field === 'lossDb' ? -1 : 1),
      movesDb,
    },
  ]
}

/** Most corner points kept of a law. */
const mostPoints = 60
const tenths = (db: number) => Math.round(db * 10) / 10

/** A law as the stage of a thing has it. */
function amountOf({ control, positions }: LevelControl, { points }: Law, sign: 1 | -1): Amount {
  const at = positions.map((position, index) => [position, tenths(sign * points[index]!.gainDb)] as const)
  if (control.kind === 'switch')
    return { control: control.id, at: Object.fromEntries(at.map(([position, db]) => [String(position), db])) }
  const every = Math.ceil(at.length / mostPoints)
  const kept = at.filter((_, index) => index % every === 0 || index === at.length - 1)
  return {
    control: control.id,
    points: kept
      .map(([position, db]): [number, number] => [Number(position), db])
      .sort((one, other) => one[0] - other[0]),
  }
}

function ceilingChanges(bench: Bench, way: ToneWay): LearntChange[] {
  const { box } = way.run.end
  const reading = readingsOf(bench, box, 'overload').at(-1)
  if (reading?.result.kind !== 'clip') return []
  const found = frontCeiling(bench, way, reading, reading.result)
  const place = found && placeOfNode(found.point, box)
  if (!found || !place) return []
  const { gear } = placedBox(bench, box)
  const at = { ...place, field: found.field }
  const before = valueAt(gear, at)
  const source = sourceOf([reading])
  if (found.kind === 'not met') {
    // it is higher than planned, by an unknown amount
    if (found.upToDbu <= found.plannedDbu + newsDb) return []
    return [ceilingChange(gear, found.point, at, before, tenths(found.upToDbu), 3, source, found.plannedDbu)]
  }
  const changes: LearntChange[] = []
  if (Math.abs(found.ceilingDbu - found.plannedDbu) >= newsDb)
    changes.push(
      ceilingChange(
        gear,
        found.point,
        at,
        before,
        tenths(found.ceilingDbu),
        Math.hypot(clipToleranceDb, found.gainToleranceDb),
        source,
        found.plannedDbu,
      ),
    )
  const shapeAt = { ...place, field: 'ceilingShape' }
  const shapeBefore = valueAt(gear, shapeAt)
  if (shapeBefore !== found.shape)
    changes.push({
      kind: 'shape',
      places: alikePlaces(gear, shapeAt),
      name: `${found.point.name}, shape of the overload`,
      source,
      before: shapeBefore,
      after: found.shape,
      movesDb: 0,
    })
  return changes
}

const ceilingChange = (
  gear: Gear,
  point: Point,
  place: Extract<FigurePlace, { strip: string }>,
  before: LearntValue,
  valueDbu: number,
  tolerance: number,
  source: string,
  plannedDbu: number,
): LearntChange => ({
  kind: 'ceiling',
  places: alikePlaces(gear, place),
  name: `${point.name}, ceiling`,
  source,
  before,
  after: measured(Math.max(-90, Math.min(60, valueDbu)), tolerance, source),
  movesDb: valueDbu - plannedDbu,
})

const measured = (value: number, tolerance: number, note: string): Figure => ({
  value: tenths(value),
  tolerance: tenths(tolerance),
  from: 'measured',
  note,
})

function floorChanges(bench: Bench, way: ToneWay): LearntChange[] {
  const { box } = way.run.end
  const readings = readingsOf(bench, box, 'floor')
  if (readings.length === 0) return []
  const { gear } = placedBox(bench, box)
  const source = sourceOf(readings)
  return floorsOfWay(bench, way, readings).flatMap(
    ({ place, name, plannedDb, valueDb, toleranceDb, toldApart }) =>
      !toldApart || Math.abs(valueDb - plannedDb) < newsDb
        ? []
        : [
            {
              kind: 'floor' as const,
              places: alikePlaces(gear, place),
              name,
              source,
              before: valueAt(gear, place),
              after: measured(valueDb, toleranceDb, source),
              movesDb: valueDb - plannedDb,
            },
          ],
  )
}

function automaticChanges(bench: Bench, way: ToneWay): LearntChange[] {
  const { box } = way.run.end
  const reading = readingsOf(bench, box, 'bursts').at(-1)
  const seen = reading?.result.kind === 'clip' ? reading.result.automatic : null
  const point = way.run.points.findLast(({ kind, part }) => kind === 'agc' && part === box)
  const place = point && placeOfNode(point, box)
  const stage = bench.graph.nodes.find(({ id }) => id === point?.node)?.stage
  if (!point || !place || !reading || !seen || seen.targetDbfs === null || stage?.kind !== 'agc') return []
  const { gear } = placedBox(bench, box)
  const target = tenths(seen.targetDbfs - gainBetween(point, lastOf(way.run.points)))
  const times = modelTimes(seen, { ...stage, target })
  const found: [field: keyof Agc, value: number | undefined, name: string][] = [
    ['target', target, 'target'],
    ['attackMs', times && Math.max(0.1, Math.round(times.attackMs)), 'attack'],
    ['holdMs', times && Math.round(times.holdMs), 'hold'],
    ['releaseMs', times && Math.max(1, Math.round(times.releaseMs)), 'release'],
  ]
  return found.flatMap(([field, value, name]): LearntChange[] => {
    const at = { ...place, field }
    const was = stage[field]
    if (value === undefined) return []
    const isNews =
      field === 'target'
        ? Math.abs(value - was) > newsDb
        : Math.abs(value - was) > newsShare * Math.max(was, 40)
    return isNews
      ? [
          {
            kind: 'automatic',
            places: alikePlaces(gear, at),
            name: `${point.name}, ${name}`,
            source: sourceOf([reading]),
            before: valueAt(gear, at),
            after: value,
            movesDb: value - was,
          },
        ]
      : []
  })
}

/** The model takes a while to be fitted, and a reading never changes. */
const fitted = new WeakMap<object, Times | undefined>()
type Times = ReturnType<typeof timesOfModel>

function modelTimes(seen: AutomaticGain, agc: Agc): Times {
  if (!fitted.has(seen))
    fitted.set(seen, timesOfModel(seen, agc, agc.target - agc.maximumGainDb + seen.gainFallsDb))
  return fitted.get(seen)
}

function markChanges(bench: Bench, way: ToneWay): LearntChange[] {
  const { box } = way.run.end
  const { gear } = placedBox(bench, box)
  return (gear.meter?.marks ?? []).flatMap(({ id, name, atDbfs }): LearntChange[] => {
    const reading = readingsOf(bench, box, 'mark').findLast(({ step }) => step.endsWith(` ${id}`))
    if (reading?.result.kind !== 'level' || way.sender === undefined) return []
    const run = bench.runAt(way.run.id, reading.settings)
    if (!run) return []
    const control = controlOfWay(bench, way)
    const position = control?.positions.indexOf(reading.settings[`${box}.${control.control.id}`]!) ?? -1
    const learntDb =
      control && position >= 0
        ? lawOfControl(bench, way, control).law.points[position]!.gainDb - control.gainsDb[position]!
        : 0
    const gainDb = lastOf(run.points).gainFromSourceDb - run.points[way.sender]!.gainFromSourceDb + learntDb
    const value = reading.result.levelDbfs + gainDb
    const planned = valueOf(atDbfs, 0)
    return Math.abs(value - planned) < newsDb
      ? []
      : [
          {
            kind: 'mark',
            places: [{ mark: id }],
            name: `meter, ${name}`,
            source: sourceOf([reading]),
            before: atDbfs,
            after: measured(Math.max(-120, Math.min(12, value)), 1, sourceOf([reading])),
            movesDb: value - planned,
          },
        ]
  })
}

/** Where a figure comes from: how many readings and which clips. */
function sourceOf(readings: readonly LineUpReading[]): string {
  const clips = readings.flatMap(({ result }) => (result.kind === 'clip' ? [result.clip] : []))
  const meters = readings.length - clips.length
  const said = [
    ...(meters ? [`${meters} meter reading${meters > 1 ? 's' : ''}`] : []),
    ...(clips.length
      ? [`${clips.length} clip${clips.length > 1 ? 's' : ''} (${clips.slice(0, 3).join(', ')})`]
      : []),
  ]
  return `Line-up, ${said.join(' and ')}.`.slice(0, 400)
}
