import { known, lastOf, trackKey, valueOf } from '../model'
import { basisOfWay } from './basis'
import {
  type Bench,
  gainBetween,
  type Settings,
  placedBox,
  positionOf,
  stripsBetween,
  stripsOfWay,
  type ToneWay,
  turnsItself,
} from './bench'
import { burstSteps, floorSteps } from './floor-steps'
import { lawOf, nextPosition } from './law'
import { keyOf, type LevelControl, levelControls, priorOf } from './level-control'
import { overloadStep } from './overload'
import { clipDb, type ControlLaw, lawOfControl, readLevel, sentOffDb } from './readings'
import { type Draft, type LineUpStep, playedFrom, settingOf } from './step'

/** Uncertainty of a law (half its width) that would not change the choice of any setting, dB. */
const enoughDb = 2.5
/** Highest level at which a tone is sent, and read, dBFS. */
const sentDbfs = -6
const readDbfs = -6
/** Distance of a tone below every ceiling it must not reach, dB. */
const underCeilingDb = 6
/** Positions this far below the loudest do not matter, dB. */
const mattersDb = 40
/** Meter reading asked for when the page plays a tone of unknown level: its volume is set by this reading, dBFS. */
const playedDbfs = -12
const startReadDbfs = -20
const mostLawSteps = 5

/** The level control of the box at the end of a way: the last that turns something before the recording. */
export const controlOfWay = (bench: Bench, way: ToneWay): LevelControl | undefined =>
  levelControls(placedBox(bench, way.run.end.box).gear, stripsOfWay(way)).at(-1)

/** Tones, floors and ceilings of the box at the end of a way. */
export function stepsOfWay(bench: Bench, way: ToneWay): Draft[] {
  if (turnsItself(way)) return burstSteps(bench, way)
  const control = controlOfWay(bench, way)
  const needsTone =
    way.sender !== undefined || (control && !control.marked && (control.learntDb ?? Infinity) > enoughDb)
  if (!needsTone) return []
  const found = control && lawOfControl(bench, way, control)
  return [
    ...sendStep(bench, way),
    ...toneSteps(bench, way, control, found),
    ...markSteps(bench, way),
    ...(control
      ? overloadStep(bench, way, control, new Set(found?.readings.map(({ position }) => position)))
      : []),
    ...floorSteps(bench, way, control, found),
  ]
}

/** The tone at the sender, as loud as no ceiling behind it minds. */
function sentLevel({ run, sender }: ToneWay): number {
  if (sender === undefined) return playedDbfs
  const from = run.points[sender]!
  const most = run.points
    .slice(sender + 1)
    .flatMap(({ ceilings }) =>
      ceilings.map(({ atSourceDb }) => atSourceDb + from.gainFromSourceDb - underCeilingDb),
    )
  const end = readDbfs - gainBetween(from, lastOf(run.points))
  return Math.max(-60, Math.floor(Math.min(sentDbfs, end, ...most)))
}

function sendStep(bench: Bench, way: ToneWay): Draft[] {
  if (way.sender === undefined) return []
  const point = way.run.points[way.sender]!
  const levelDbfs = sentLevel(way)
  const outputs = levelControls(placedBox(bench, point.part).gear, stripsBetween(way, point.part))
  const placed = placedBox(bench, point.part)
  return [
    {
      id: `send ${point.node}`,
      basis: basisOfWay(bench, way),
      kind: 'send',
      box: point.part,
      boxName: point.partName,
      set: outputs.map(({ control }) =>
        settingOf(bench, point.part, control.id, positionOf(placed, control)),
      ),
      expect: { kind: 'level', track: point.name, levelDbfs, toleranceDb: 0.5, relative: false },
      play: playedFrom(way, { kind: 'tone', levelDbfs }),
      run: way.run.id,
    },
  ]
}

/** Readings of the tone: where the control is planned, where its law is least sure, and those that were taken. */
function toneSteps(
  bench: Bench,
  way: ToneWay,
  control: LevelControl | undefined,
  found: ControlLaw | undefined,
): Draft[] {
  const { run } = way
  const box = run.end.box
  if (!control || !found) return [toneStep(bench, way, undefined, undefined)]
  const placed = placedBox(bench, box)
  const planned = Math.max(0, control.positions.indexOf(positionOf(placed, control.control)))
  const taken = found.readings.map(({ position }) => position)
  const wanted: { position: number; why: LineUpStep['why'] }[] = [
    { position: planned, why: 'planned position' },
  ]
  for (const position of taken)
    if (!wanted.some((each) => each.position === position)) wanted.push({ position, why: 'law uncertain' })
  if (!control.marked) wanted.push(...uncertain(control, found, planned, wanted))
  return wanted.map(({ position, why }) => toneStep(bench, way, { control, found, position }, why))
}

/** The next positions to ask for: each where the law is least certain, assuming the earlier ones read as expected. */
function uncertain(
  control: LevelControl,
  found: ControlLaw,
  planned: number,
  listed: readonly { position: number }[],
): { position: number; why: LineUpStep['why'] }[] {
  const loudest = lastOf(found.law.points).gainDb
  // Balance may ask for any position except the end where next to nothing passes
  const within = {
    from: Math.min(
      planned,
      found.law.points.findIndex(({ gainDb }) => gainDb > loudest - mattersDb),
    ),
    to: found.law.points.length - 1,
  }
  const asked: { position: number; why: LineUpStep['why'] }[] = []
  // a planned position that was not read yet is taken as read, and so is everything that is asked
  let law = pretended(control, found, [...listed.map(({ position }) => position)])
  while (listed.length + asked.length < mostLawSteps) {
    const next = nextPosition(law, within, enoughDb)
    if (next === undefined || listed.some(({ position }) => position === next)) break
    if (asked.some(({ position }) => position === next)) break
    asked.push({ position: next, why: 'law uncertain' })
    law = pretended(
      control,
      found,
      [...listed, ...asked].map(({ position }) => position),
    )
  }
  return asked
}

function pretended(control: LevelControl, found: ControlLaw, positions: readonly number[]) {
  const read = new Set(found.readings.map(({ position }) => position))
  const assumed = positions
    .filter((position) => !read.has(position))
    .map((position) => ({ position, gainDb: found.law.points[position]!.gainDb, toleranceDb: clipDb }))
  return lawOf(priorOf(control), [...found.readings, ...assumed])
}

interface ToneAt {
  control: LevelControl
  found: ControlLaw
  position: number
}

function toneStep(bench: Bench, way: ToneWay, asked: ToneAt | undefined, why: LineUpStep['why']): Draft {
  const { run, sender } = way
  const box = run.end.box
  const own = asked?.found.readings.find((each) => each.position === asked.position)?.reading
  const at = asked && { ...asked, found: own ? lawOfControl(bench, way, asked.control, own.at) : asked.found }
  const gainDb = sender === undefined ? relativeGain(bench, way, at) : gainAt(bench, way, at, own?.settings)
  // a control turned up gets a softer tone; readings are compared with what was played
  const levelDbfs = own?.playedDbfs ?? Math.min(sentLevel(way), Math.floor(readDbfs - gainDb))
  const position = at?.control.positions[at.position]
  return {
    id: `tone ${box} ${at ? `${at.control.control.id} ${position}` : 'level'}`,
    basis: basisOfWay(bench, way),
    kind: 'tone',
    box,
    boxName: placedBox(bench, box).name,
    set: at && position !== undefined ? [settingOf(bench, box, at.control.control.id, position)] : [],
    expect: {
      kind: 'level',
      track: trackKey(run.end),
      levelDbfs: levelDbfs + sentOffDb(bench, way) + gainDb,
      toleranceDb: at ? at.found.law.points[at.position]!.toleranceDb : 1.5,
      relative: sender === undefined && at?.found.readings.length === 0,
    },
    play: playedFrom(way, { kind: 'tone', levelDbfs }),
    run: run.id,
    why,
  }
}

/** Expected reading of a 0 dBFS tone, with the chain as it is set or was when the tone was read. */
function gainAt(bench: Bench, way: ToneWay, at: ToneAt | undefined, settings: Settings = {}): number {
  const run = bench.runAt(way.run.id, settings) ?? way.run
  const gainDb = gainBetween(run.points[known(way.sender, 'a sender')]!, lastOf(run.points))
  if (!at) return gainDb
  const { control, found, position } = at
  const placed = placedBox(bench, run.end.box)
  const current = settings[keyOf(run.end.box, control)] ?? positionOf(placed, control.control)
  const set = Math.max(0, control.positions.indexOf(current))
  return gainDb + found.law.points[position]!.gainDb - control.gainsDb[set]!
}

/** The same where nothing says how loud the tone comes in: from the first reading, or so that the first shows a usual level. */
function relativeGain(bench: Bench, way: ToneWay, at: ToneAt | undefined): number {
  if (!at) return startReadDbfs - playedDbfs
  const { control, found, position } = at
  const [first] = found.readings
  const read = first && readLevel(bench, way.run.end.box, first.reading)
  const planned = control.positions.indexOf(positionOf(placedBox(bench, way.run.end.box), control.control))
  const [from, level] =
    first && read
      ? [first.position, read.levelDbfs - (first.reading.playedDbfs ?? 0)]
      : [Math.max(0, planned), startReadDbfs - playedDbfs]
  return level + found.law.points[position]!.gainDb - found.law.points[from]!.gainDb
}

/** Marks of a meter without numbers: the level of the tone at which each is reached. */
function markSteps(bench: Bench, way: ToneWay): Draft[] {
  const { run, sender } = way
  const { gear, name } = placedBox(bench, run.end.box)
  if (sender === undefined) return []
  const gainDb = gainBetween(run.points[sender]!, lastOf(run.points))
  return (gear.meter?.marks ?? []).map((mark): Draft => {
    const atDbfs = valueOf(mark.atDbfs, 0)
    return {
      id: `mark ${run.end.box} ${mark.id}`,
      basis: basisOfWay(bench, way),
      kind: 'mark',
      box: run.end.box,
      boxName: name,
      set: [],
      expect: { kind: 'mark', mark: mark.id, markName: mark.name, levelDbfs: atDbfs - gainDb },
      play: playedFrom(way, { kind: 'steps', levelDbfs: Math.min(0, Math.round(atDbfs - gainDb) + 3) }),
      run: run.id,
    }
  })
}
