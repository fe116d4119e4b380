import type { Point, Run } from '../levels'
import { type FigurePlace, type LineUpReading, lastOf } from '../model'
import { type Bench, placedBox, type ToneWay } from './bench'
import { keyOf } from './level-control'
import { placeOfNode, valueAt } from './places'
import { clipDb, lawOfControl } from './readings'
import { controlOfWay } from './tone-steps'

/** A noise figure of a box as clips of silence show it. */
export interface LearntFloor {
  place: Extract<FigurePlace, { strip: string }>
  name: string
  plannedDb: number
  valueDb: number
  /** Half of the width within which it lies in 95 of 100 cases. */
  toleranceDb: number
  /** The clips say enough of it; if not, a quieter front and a lower gain look alike from outside. */
  toldApart: boolean
}

/** Prior spread of noise figures around the plan, one standard deviation, dB. */
const beforeDb = 4
/** How sure the noise of a clip is. */
const readDb = Math.hypot(clipDb, 0.4)
const gridDb = 0.5
const gridTo = 14
/** Spread below which a noise figure counts as found, dB. */
const enoughDb = 2.2

/** Which noises of the box are asked for: of its first amplifier, and of its converter. */
function unknowns({ points }: Run, box: string): Point[] {
  const own = points.filter(({ part, ownNoiseAtSourceDb }) => part === box && ownNoiseAtSourceDb > -Infinity)
  const front = own.find(({ kind }) => kind === 'gain')
  const back = own.find(({ kind }) => kind === 'converter-in')
  return [front, back].flatMap((point) => point ?? [])
}

/**
 * The noise of the first amplifier and of the converter from clips of silence at known positions: powers that add, each
 * weighed over all it could be (a grid of half decibels) by how well the clips agree.
 */
export function floorsOfWay(bench: Bench, way: ToneWay, readings: readonly LineUpReading[]): LearntFloor[] {
  const asked = unknowns(way.run, way.run.end.box)
  const clips = clipsOf(bench, way, asked, readings)
  if (clips.length === 0 || asked.length === 0) return []
  const { cells, weights, total } = weighed(clips, asked.length)
  if (!(total > 0)) return []
  return asked.flatMap((point, index): LearntFloor[] => {
    const mean = cells.reduce((sum, offs, cell) => sum + offs[index]! * weights[cell]!, 0) / total
    const variance =
      cells.reduce((sum, offs, cell) => sum + (offs[index]! - mean) ** 2 * weights[cell]!, 0) / total
    const toleranceDb = 1.96 * Math.sqrt(variance + (gridDb * gridDb) / 12)
    return floorOf(bench, way, point, mean, toleranceDb)
  })
}

/** A clip of silence: its noise, its uncertainty, and its make-up by the plan. */
interface SilentClip {
  noiseDbfsA: number
  sureDb: number
  parts: number[]
  rest: number
}

function clipsOf(
  bench: Bench,
  way: ToneWay,
  asked: readonly Point[],
  readings: readonly LineUpReading[],
): SilentClip[] {
  const { box } = way.run.end
  const control = controlOfWay(bench, way)
  const law = control && lawOfControl(bench, way, control).law
  return readings.flatMap(({ result, settings }) => {
    const run = bench.runAt(way.run.id, settings)
    const noiseDbfsA = result.kind === 'clip' ? result.noiseDbfsA : null
    if (!run || noiseDbfsA === null) return []
    const position = control?.positions.indexOf(settings[keyOf(box, control)]!) ?? -1
    const point = position >= 0 ? law?.points[position] : undefined
    const learntDb = control && point ? point.gainDb - control.gainsDb[position]! : 0
    // where the law is uncertain, so is its effect on the noise
    const sureDb = Math.hypot(readDb, point ? point.toleranceDb / 2 : 0)
    return [{ noiseDbfsA, sureDb, ...partsOf(run, asked, learntDb) }]
  })
}

/** Every way in which the noises may be off, with how well it agrees with the clips and with what is usual. */
function weighed(clips: readonly SilentClip[], unknownCount: number) {
  const steps = Array.from(
    { length: Math.round((2 * gridTo) / gridDb) + 1 },
    (_, index) => index * gridDb - gridTo,
  )
  const cells =
    unknownCount === 1
      ? steps.map((one) => [one])
      : steps.flatMap((one) => steps.map((other) => [one, other]))
  const weights = cells.map((offs) => {
    const prior = offs.reduce((sum, off) => sum + (off / beforeDb) ** 2, 0)
    const misfit = clips.reduce((sum, { noiseDbfsA, sureDb, parts, rest }) => {
      const power = parts.reduce((all, part, index) => all + part * 10 ** (offs[index]! / 10), rest)
      return sum + ((noiseDbfsA - 10 * Math.log10(power)) / sureDb) ** 2
    }, 0)
    return Math.exp(-0.5 * (prior + misfit))
  })
  return { cells, weights, total: weights.reduce((sum, each) => sum + each, 0) }
}

/** A noise figure with its deviation; empty if the thing states none there. */
function floorOf(
  bench: Bench,
  way: ToneWay,
  point: Point,
  offDb: number,
  toleranceDb: number,
): LearntFloor[] {
  const { box } = way.run.end
  const place = placeOfNode(point, box)
  const field = point.kind === 'converter-in' ? 'noiseDbfsA' : 'inputNoiseDbuA'
  const before = place && valueAt(placedBox(bench, box).gear, { ...place, field })
  const planned = typeof before === 'object' && before && 'value' in before ? before.value : before
  if (!place || typeof planned !== 'number') return []
  return [
    {
      place: { ...place, field },
      name: `${point.name}, noise`,
      plannedDb: planned,
      valueDb: planned + offDb,
      toleranceDb,
      // with a tone of unknown level a quieter amplifier and a lower gain behind it look alike
      toldApart: toleranceDb < enoughDb && (point.kind === 'converter-in' || way.sender !== undefined),
    },
  ]
}

/** Powers in the file of each noise that is asked for, and of everything else in the box. */
function partsOf(run: Run, asked: readonly Point[], learntDb: number) {
  const end = lastOf(run.points)
  const box = run.end.box
  let turned = false
  let rest = 0
  const parts = asked.map(() => 0)
  for (const point of run.points) {
    if (point.part !== box) continue
    // noise added behind the level control does not change with it
    turned ||= point.kind === 'converter-in'
    const power = 10 ** ((point.ownNoiseAtSourceDb + end.gainFromSourceDb + (turned ? 0 : learntDb)) / 10)
    const at = asked.findIndex(({ node }) => node === point.node)
    if (at < 0) rest += power
    else parts[at]! += power
  }
  return { parts, rest }
}
