import { trackKey, lastOf } from '../model'
import { basisOfWay } from './basis'
import { type Bench, sentDbuOf, placedBox, positionOf, stripsBetween, type ToneWay } from './bench'
import { keyOf, type LevelControl, levelControls } from './level-control'
import { type Draft, type Setting, settingOf } from './step'

/** How far above the ceiling the tone is sent, dB. */
const overCeilingDb = 8
/** Usual level of the tone, and the highest reading of a cut crest, dBFS. */
const sentDbfs = -6
const cutReadsDbfs = -10
/** Lowest level in the file at which a ceiling can be read, dBFS: below, it is lost in the hiss of the box. */
const leastReadDbfs = -40
const noPositions: ReadonlySet<number> = new Set()

/** A hot tone with the record level low: whether the first amplifier overloads behind a meter that shows nothing. */
export function overloadStep(
  bench: Bench,
  way: ToneWay,
  control: LevelControl,
  readPositions: ReadonlySet<number>,
): Draft[] {
  const { run, sender } = way
  if (sender === undefined) return []
  const hidden = hiddenCeiling(bench, way, control, readPositions)
  if (!hidden) return []
  const from = run.points[sender]!
  const wantedDbfs = hidden.atSourceDb + from.gainFromSourceDb + overCeilingDb
  const box = run.end.box
  const placed = placedBox(bench, from.part)
  // if the tone cannot be sent that hot at the present setting, the sender's output is raised
  const output = levelControls(placed.gear, stripsBetween(way, from.part)).at(-1)
  const short = wantedDbfs - sentDbfs
  const set: Setting[] = []
  let outDbu = sentDbuOf(way)
  let levelDbfs = Math.min(sentDbfs, Math.round(wantedDbfs))
  if (short > 0 && output) {
    const current = output.positions.indexOf(positionOf(placed, output.control))
    const at = output.gainsDb.findIndex((gain) => gain >= output.gainsDb[Math.max(0, current)]! + short)
    const to = at < 0 ? output.positions.length - 1 : at
    set.push(settingOf(bench, from.part, output.control.id, output.positions[to]!))
    const raised = output.gainsDb[to]! - output.gainsDb[Math.max(0, current)]!
    levelDbfs = Math.min(0, Math.round(wantedDbfs - raised))
    if (outDbu !== undefined) outDbu += raised
  }
  const position = control.positions[hidden.position]!
  set.push(settingOf(bench, box, control.control.id, position))
  return [
    {
      id: `overload ${box}`,
      basis: basisOfWay(bench, way),
      kind: 'overload',
      box,
      boxName: placedBox(bench, box).name,
      set,
      expect: { kind: 'shape', track: trackKey(run.end), ceilingDbfs: hidden.inFileDbfs },
      play: {
        kind: 'tone',
        levelDbfs,
        from: from.part,
        ...(outDbu !== undefined && { outDbu: levelDbfs + outDbu }),
      },
      run: run.id,
      why: 'overload may hide',
    },
  ]
}

/** The ceiling in front of the level control, and a position at which it would show well under full scale. */
export function hiddenCeiling(
  bench: Bench,
  way: ToneWay,
  control: LevelControl,
  readPositions: ReadonlySet<number> = noPositions,
) {
  const { run, entry } = way
  const turned = run.points.findIndex(
    ({ controls }, index) => index >= entry && controls.includes(keyOf(run.end.box, control)),
  )
  const front = run.points
    .slice(entry, turned)
    .flatMap((point) => point.ceilings.map((ceiling) => ({ point, ...ceiling })))
    .filter(({ point }) => point.kind === 'gain')
    .sort((one, other) => one.atSourceDb - other.atSourceDb)[0]
  if (!front || turned < 0) return undefined
  const planned = control.positions.indexOf(positionOf(placedBox(bench, run.end.box), control.control))
  const inFile = (position: number) =>
    front.atSourceDb +
    lastOf(run.points).gainFromSourceDb +
    control.gainsDb[position]! -
    control.gainsDb[Math.max(0, planned)]!
  // a quarter of the scale or less, and never the silent end
  const most = Math.max(1, Math.floor((control.positions.length - 1) / 4))
  let position = most
  while (position > 1 && inFile(position) > cutReadsDbfs) position--
  // where the gain was read, the ceiling is as certain as the clip: such positions come first
  const read = [...readPositions].filter(
    (each) => each > 0 && each <= position && inFile(each) > leastReadDbfs,
  )
  if (read.length) position = Math.max(...read)
  return { ...front, position, inFileDbfs: inFile(position) }
}
