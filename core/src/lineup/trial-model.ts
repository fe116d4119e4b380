import type { Point, Run } from '../levels'
import {
  controlKey,
  type Figure,
  known,
  lastOf,
  type Position,
  positionName,
  provenanceOf,
  type Stage,
} from '../model'
import { type Bench, boxesFrom, placedBox, positionOf } from './bench'
import { type LevelControl, levelControls, priorOf } from './level-control'
import type { Setting } from './step'

/** Expected readings of a clip at a setting. Levels in dBFS. */
export interface TrialOutcome {
  levelDbfs: number
  noiseDbfs: number
  /** Excess of the loudest moment over each ceiling, dB; negative: below it. */
  overDb: Float64Array
  /** Level of each ceiling in the file. */
  inFileDbfs: Float64Array
}

/** A run as a trial sees it: settings that can be tried, unknowns that decide between them, and what each clip would show. */
export interface TrialModel {
  run: string
  marginDb: number
  /** The settings that may be tried, each a position of every control. */
  settings: Setting[][]
  /** Index of the planned one. */
  planned: number
  /** Unknowns, each scaled to a standard deviation of 1: deviations of a figure, or of a law's shape. */
  unknowns: string[]
  outcome: (unknowns: ArrayLike<number>, setting: number) => TrialOutcome
}

/** Most positions of a control that are tried. */
const mostPositions = 10
const mostSettings = 40
/** Ceilings this far above the loudest moment at every setting decide nothing, dB. */
const farDb = 40
/** Spread of voice and place around the plan on the day, one standard deviation, dB. */
const voiceDb = 2
const placeDb = 3
/** Uncertainty of figures without a tolerance, and of typical ones, dB. */
const bareDb = 1.5

/** Bends of a law over the way of its control, from 0 to 1, each with a standard deviation of 1. */
const bends: readonly ((share: number) => number)[] = [
  (share) => share - 0.5,
  (share) => Math.sin(Math.PI * share) - 2 / Math.PI,
  (share) => 0.7 * Math.sin(2 * Math.PI * share),
]

/** In the innermost loop of a trial: as `powerFromDb`, and twice as fast. */
const powerOf = (db: number): number => Math.exp((db * Math.LN10) / 10)

interface TurnedControl {
  control: LevelControl
  box: string
  boxName: string
  /** First point that it turns. */
  at: number
  /** Its position. */
  current: number
  /** Positions that are tried. */
  tried: number[]
  offsetDb: number
  bendDb: number
  /** First of its unknowns: how far the law is off as a whole, then its bends. */
  first: number
}

/**
 * A run as a closed form: every point's noise and ceilings referred to the source, moved by what the controls before it
 * are turned. Exact for a chain without automatic gain, as `Run` has it at the settings of the plan. Undefined where
 * nothing on the way can be turned, or something there turns itself.
 */
export function trialModelOf(bench: Bench, runId: string): TrialModel | undefined {
  const run = bench.levels.runs.find(({ id }) => id === runId)
  if (!run || run.stop || run.end.kind !== 'recording') return undefined
  if (run.points.some(({ automatic }) => automatic !== undefined)) return undefined
  const unknowns: string[] = []
  const unknown = (name: string): number => unknowns.push(name) - 1
  const voice = unknown('voice')
  const place = unknown('noise of the place')
  const controls = turnedControls(bench, run, unknown)
  if (controls.length === 0) return undefined
  const noises = noisesOf(bench, run, unknown)
  const ceilings = ceilingsOf(bench, run, unknown)
  const settings = combined(controls)
  const outcome = outcomeOf({
    run,
    voice,
    place,
    controls,
    noises,
    ceilings,
    turns: turnsOf(controls, settings),
  })
  return {
    run: runId,
    marginDb: bench.patch.plan.marginDb,
    settings: settings.map((positions) => settingsAt(controls, positions)),
    planned: settings.findIndex((positions) =>
      positions.every((each, index) => each === controls[index]!.current),
    ),
    unknowns,
    outcome,
  }
}

/** A run with its unknowns, voice and place by their index among them. */
interface ClosedForm {
  run: Run
  voice: number
  place: number
  controls: readonly TurnedControl[]
  noises: ReturnType<typeof noisesOf>
  ceilings: ReturnType<typeof ceilingsOf>
  turns: ReturnType<typeof turnsOf>
}

/** Predicted result of a run, from the unknowns and the index of the setting. */
function outcomeOf({ run, voice, place, controls, noises, ceilings, turns }: ClosedForm) {
  const end = lastOf(run.points)
  const placePower =
    10 ** ((run.noiseWithPlaceDb - end.gainFromSourceDb) / 10) - 10 ** (end.noiseAtSourceDb / 10)
  const placeAtSource = 10 * Math.log10(Math.max(1e-20, placePower))
  const peakAtSource = lastOf(run.points).wholePeakDb - end.gainFromSourceDb

  return (values: ArrayLike<number>, setting: number): TrialOutcome => {
    const laws = lawMoves(controls, turns, values, setting)
    const gain = (point: number, output: boolean): number => {
      let sum = 0
      for (let index = 0; index < laws.length; index++) {
        const { at } = controls[index]!
        if (at < point || (output && at === point)) sum += laws[index]!
      }
      return sum
    }
    const whole = end.gainFromSourceDb + gain(run.points.length, true)
    const voiceOff = voiceDb * values[voice]!
    let power = powerOf(placeAtSource + placeDb * values[place]! + whole)
    for (let index = 0; index < noises.length; index++) {
      const { point, atSourceDb, output, spreadDb, at } = noises[index]!
      power += powerOf(atSourceDb + spreadDb * values[at]! - gain(point, output) + whole)
    }
    const overDb = new Float64Array(ceilings.length)
    const inFileDbfs = new Float64Array(ceilings.length)
    ceilings.forEach(({ point, atSourceDb, output, spreadDb, at }, index) => {
      const ceiling = atSourceDb + (at < 0 ? 0 : spreadDb * values[at]!) - gain(point, output)
      overDb[index] = peakAtSource + voiceOff - ceiling
      inFileDbfs[index] = ceiling + whole
    })
    return {
      levelDbfs: run.atSource.typical + voiceOff + whole,
      noiseDbfs: 10 * Math.log10(power),
      overDb,
      inFileDbfs,
    }
  }
}

/** Controls on the way of the run that set its level and are not locked: the last two, which decide most. */
function turnedControls(bench: Bench, run: Run, unknown: (name: string) => number): TurnedControl[] {
  const found = boxesFrom(run.points, bench.patch).flatMap((id) => {
    const placed = placedBox(bench, id)
    const strips = new Set(
      run.points.flatMap(({ node, part }) => (part === id ? [node.slice(id.length + 1).split('.')[0]!] : [])),
    )
    return levelControls(placed.gear, strips)
      .filter(({ control }) => !placed.box.locked.includes(control.id))
      .map((control) => ({ control, placed }))
  })
  return found.slice(-2).flatMap(({ control, placed }): TurnedControl[] => {
    const key = controlKey(placed.box.id, control.control.id)
    const at = run.points.findIndex(({ controls }) => controls.includes(key))
    if (at < 0) return []
    const first = unknown(`${placed.name}, ${control.control.name}`)
    bends.forEach((_, bend) => unknown(`${control.control.name}, bend ${bend + 1}`))
    const { offsetDb, bendDb } = priorOf(control)
    const current = Math.max(0, control.positions.indexOf(positionOf(placed, control.control)))
    return [
      {
        control,
        box: placed.box.id,
        boxName: placed.name,
        at,
        current,
        offsetDb,
        bendDb,
        tried: triedPositions(control.positions.length, current),
        first,
      },
    ]
  })
}

/** Positions to try, evenly spaced and including the planned one. */
function triedPositions(count: number, current: number): number[] {
  const every = Math.max(1, (count - 1) / (mostPositions - 1))
  const even = Array.from({ length: Math.min(count, mostPositions) }, (_, index) => Math.round(index * every))
  return [...new Set([...even, current])].sort((one, other) => one - other)
}

/** Every combination of positions; where there are too many, of fewer positions of the first control. */
function combined(controls: readonly TurnedControl[]): number[][] {
  const [first, second] = controls
  if (!second) return first!.tried.map((position) => [position])
  const most = Math.max(2, Math.floor(mostSettings / second.tried.length))
  const every = Math.ceil(first!.tried.length / most)
  const kept = first!.tried.filter((position, index) => index % every === 0 || position === first!.current)
  return kept.flatMap((one) => second.tried.map((other) => [one, other]))
}

/** For each setting and control: its gain relative to the plan, and its share of the travel there and in the plan. */
function turnsOf(controls: readonly TurnedControl[], settings: readonly number[][]) {
  const shareOf = ({ control }: TurnedControl, position: number) =>
    position / Math.max(1, control.positions.length - 1)
  return settings.map((positions) =>
    controls.map((turned, index) => ({
      byDb: turned.control.gainsDb[positions[index]!]! - turned.control.gainsDb[turned.current]!,
      bends: bends.map((bend) => bend(shareOf(turned, positions[index]!))),
    })),
  )
}

/** How far each control moves the level beside the plan, with its law as the unknowns have it. */
function lawMoves(
  controls: readonly TurnedControl[],
  turns: ReturnType<typeof turnsOf>,
  values: ArrayLike<number>,
  setting: number,
): Float64Array {
  const moves = new Float64Array(controls.length)
  for (let index = 0; index < moves.length; index++) {
    const { first, offsetDb, bendDb } = controls[index]!
    const { byDb, bends: bent } = turns[setting]![index]!
    let sum = byDb + offsetDb * values[first]!
    for (let each = 0; each < bent.length; each++) sum += bendDb * bent[each]! * values[first + 1 + each]!
    moves[index] = sum
  }
  return moves
}

interface Referred {
  point: number
  atSourceDb: number
  /** Whether it is behind the gain of its point. */
  output: boolean
  spreadDb: number
  /** Its unknown; -1 where it is known. */
  at: number
}

/** How far a figure may be off. */
const spreadOf = (figure: Figure | undefined): number =>
  figure === undefined ? bareDb : (provenanceOf(figure).tolerance ?? bareDb * 2)

const stageOf = (bench: Bench, point: Point): Stage | undefined =>
  bench.graph.nodes.find(({ id }) => id === point.node)?.stage

/** Noise of every point that hisses to speak of. */
function noisesOf(bench: Bench, run: Run, unknown: (name: string) => number): (Referred & { at: number })[] {
  return run.points.flatMap((point, index) => {
    if (point.ownNoiseAtSourceDb === -Infinity) return []
    const stage = stageOf(bench, point)
    const input = stage?.kind === 'gain' && stage.inputNoiseDbuA !== undefined
    const figure =
      stage?.kind === 'gain'
        ? (stage.inputNoiseDbuA ?? stage.outputNoiseDbuA)
        : stage?.kind === 'converter-in'
          ? stage.noiseDbfsA
          : undefined
    return [
      {
        point: index,
        atSourceDb: point.ownNoiseAtSourceDb,
        output: !input,
        spreadDb: spreadOf(figure),
        at: unknown(`${point.partName}, ${point.name}, noise`),
      },
    ]
  })
}

/** Every ceiling that some setting may meet. */
function ceilingsOf(bench: Bench, run: Run, unknown: (name: string) => number): Referred[] {
  return run.points.flatMap((point, index) =>
    point.ceilings
      .filter(({ headroomDb }) => headroomDb < farDb)
      .map(({ at, atSourceDb }): Referred => {
        const stage = stageOf(bench, point)
        const figure =
          stage?.kind === 'gain'
            ? at === 'input'
              ? stage.inputCeilingDbu
              : stage.outputCeilingDbu
            : undefined
        const spreadDb = stage?.kind === 'gain' ? spreadOf(figure) : 0
        return {
          point: index,
          atSourceDb,
          output: at === 'output',
          spreadDb,
          at: spreadDb > 0 ? unknown(`${point.partName}, ${point.name}, ceiling`) : -1,
        }
      }),
  )
}

const settingsAt = (controls: readonly TurnedControl[], positions: readonly number[]): Setting[] =>
  controls.map(({ box, boxName, control }, index) => {
    const position: Position = known(control.positions[positions[index]!], 'a position')
    return {
      box,
      boxName,
      control: control.control.id,
      controlName: control.control.name,
      position,
      positionName: positionName(control.control, position),
    }
  })
