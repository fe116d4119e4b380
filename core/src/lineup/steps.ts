import { askedOf, type Run } from '../levels'
import {
  controlKey,
  lastOf,
  trackKey,
  gearOf,
  idleControls,
  partsOf,
  piecesOf,
  positionName,
  positionsOf,
} from '../model'
import { basisOf } from './basis'
import { type Bench, boxesFrom, identityOf, placedBox, positionOf, type ToneWay, toneWays } from './bench'
import { scratchSteps } from './scratch'
import { type Draft, type LineUpStep, settingOf } from './step'
import { controlOfWay, stepsOfWay } from './tone-steps'
import { trialOfScene, trialSteps } from './trial-of-scene'

/** All steps before the first take, from the sources towards the recordings; finished ones carry their reading. */
export function lineUpSteps(bench: Bench): LineUpStep[] {
  const ways = toneWays(bench)
  const boxes = [...new Set(bench.levels.runs.flatMap(({ points }) => boxesFrom(points, bench.patch)))]
  const ordered = boxes.sort((one, other) => placeOf(bench, one) - placeOf(bench, other))
  const drafts = [
    ...ordered.flatMap((box) => settleStep(bench, box)),
    ...pieceSteps(bench),
    ...scratchSteps(bench),
    ...firstOfBox(ways).flatMap((way) => stepsOfWay(bench, way)),
    ...voiceSteps(bench),
    ...trialSteps(bench),
    ...listenSteps(bench),
  ]
  const all = [...new Map(drafts.map((step) => [step.id, step])).values()]
  return all.map((draft): LineUpStep => {
    const done = bench.patch.lineUp.findLast(({ step }) => step === draft.id)
    const fits = done?.basis === draft.basis
    // a trial is done once its answer no longer depends on the rest
    const isOver =
      draft.kind !== 'trial' || !done || trialOfScene(bench, draft.run ?? '')?.trial.next === undefined
    return { ...draft, reading: fits && isOver ? done : undefined, stale: done !== undefined && !fits }
  })
}

/** How far a box lies from the sources: the most boxes before it on any run. */
const placeOf = ({ levels, patch }: Bench, box: string): number =>
  Math.max(...levels.runs.map(({ points }) => boxesFrom(points, patch).indexOf(box)))

/** One way for each box that something ends in: its channels are built alike. */
const firstOfBox = (ways: readonly ToneWay[]): ToneWay[] =>
  [...new Map(ways.toReversed().map((way) => [way.run.end.box, way])).values()].toReversed()

/** Everything automatic, every input and power as planned: the controls that set no level. */
function settleStep(bench: Bench, id: string): Draft[] {
  const placed = placedBox(bench, id)
  const { gear, name } = placed
  // controls whose law is read have steps of their own; attenuators and ranges are set here
  const level = new Set(
    toneWays(bench).flatMap((way) =>
      way.run.end.box === id ? (controlOfWay(bench, way)?.control.id ?? []) : [],
    ),
  )
  const idle = idleControls(bench.patch, id, gear)
  const set = gear.controls
    .filter((control) => control.kind === 'switch' && !level.has(control.id) && !idle.has(control.id))
    .map((control) => settingOf(bench, id, control.id, positionOf(placed, control)))
  if (set.length === 0) return []
  return [
    {
      id: `settle ${id}`,
      basis: basisOf([identityOf(gear), set.map(({ control, position }) => [control, position])]),
      kind: 'settle',
      box: id,
      boxName: name,
      set,
      expect: { kind: 'seen' },
    },
  ]
}

/** Pads and the like between the boxes that can be set. */
const pieceSteps = ({ patch, shelf }: Bench): Draft[] =>
  piecesOf(patch).flatMap((piece): Draft[] => {
    const gear = gearOf(shelf, piece.gear)
    if (gear.controls.length === 0) return []
    const set = gear.controls.map((control) => {
      const position = piece.settings[control.id] ?? control.initial
      return {
        box: piece.id,
        boxName: gear.name,
        control: control.id,
        controlName: control.name,
        position,
        positionName: positionName(control, position),
      }
    })
    return [
      {
        id: `settle ${piece.id}`,
        basis: basisOf([identityOf(gear), set.map(({ control, position }) => [control, position])]),
        kind: 'settle',
        box: piece.id,
        boxName: gear.name,
        set,
        expect: { kind: 'seen' },
      },
    ]
  })

/** The real words at real loudness: each source once for each microphone and box that has a level to be set for it. */
function voiceSteps(bench: Bench): Draft[] {
  const { patch, levels } = bench
  const runs = levels.runs.filter(({ end, stop, spill }) => end.kind === 'recording' && !stop && !spill)
  const asked = askedOf(
    patch.plan,
    runs.map(({ end, points }) => ({
      gearKind: end.gearKind,
      aim: end.aim,
      automatic: points.some(({ automatic }) => automatic !== undefined),
    })),
  )
  const steps = new Map<string, Draft>()
  runs.forEach((run, index) => {
    const window = asked[index]!.window
    // a safety copy follows its track, and nobody reads a radio's internal recording
    if (!window || run.end.gearKind === 'radio' || run.end.aim.lowerDb > 0) return
    const key = `${run.source.id} ${run.entry.part} ${run.end.box}`
    if (steps.has(key)) return
    const boxes = boxesFrom(run.points, patch)
    const peakDbfs = lastOf(run.points).peakDb.loudest
    steps.set(key, {
      id: `voice ${run.id}`,
      basis: basisOf([
        patch.boxes
          .filter(({ id }) => boxes.includes(id))
          .map(({ id, settings }) => [id, identityOf(placedBox(bench, id).gear), settings]),
        patch.links.filter(({ to }) => boxes.includes(to.box)).map(({ pieces }) => pieces),
        run.atSource.loudest,
      ]),
      kind: 'voice',
      box: run.end.box,
      boxName: run.end.boxName,
      set: [],
      expect: {
        kind: 'peak',
        track: trackKey(run.end),
        peakDbfs,
        isFixed: (peakDbfs < window.lowestDbfs || peakDbfs > window.highestDbfs) && !canBeTurned(bench, run),
        ...window,
      },
      run: run.id,
      source: run.source,
    })
  })
  return [...steps.values()]
}

/** Smallest range of a control that sets a level, dB. */
const leastTurnDb = 1

/** Whether a control that is not locked changes the level of a run at one of its ends; where it silences, it sets none. */
function canBeTurned({ patch, shelf, levels, runAt }: Bench, { id: run, peakDb }: Run): boolean {
  return partsOf(patch).some(({ id, gear, locked }) =>
    gearOf(shelf, gear).controls.some((control) => {
      const key = controlKey(id, control.id)
      if (locked.includes(control.id) || !levels.reach[key]?.includes(run)) return false
      const positions = positionsOf(control)
      return [positions[0]!, lastOf(positions)].some((position) => {
        const turned = runAt(run, { [key]: position })
        return turned && !turned.stop && Math.abs(turned.peakDb - peakDb) > leastTurnDb
      })
    }),
  )
}

function listenSteps(bench: Bench): Draft[] {
  const boxes = new Map(
    bench.levels.runs
      .filter(({ end, stop }) => end.kind === 'listen' && !stop)
      .map((run) => [run.end.box, run]),
  )
  return [...boxes.values()].map((run): Draft => ({
    id: `listen ${run.end.box}`,
    basis: basisOf(boxesFrom(run.points, bench.patch)),
    kind: 'listen',
    box: run.end.box,
    boxName: run.end.boxName,
    set: [],
    expect: { kind: 'seen' },
    run: run.id,
  }))
}
