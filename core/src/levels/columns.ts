import { powerSumDb } from '../units'
import { type Ceiling, type Point, type Run, tighter } from './run'

/** A column of the level map: one or more points of a run that belong together, with what they show as one. */
export interface Column {
  /** Indices into the points of the run. */
  points: number[]
  part: string
  name: string
  partName: string
  controls: string[]
  /** The lowest ceiling, referred to the source. */
  ceiling: Ceiling | undefined
  noiseAtSourceDb: number
  ownNoiseAtSourceDb: number
  pauseNoiseAtSourceDb: number
  domain: Point['domain']
  gainFromSourceDb: number
}

/**
 * How far the largest peak of all sources together is below a ceiling, referred to the source like the ceiling itself: their
 * distance is the headroom. Undefined where it is no more than the peak of the source alone.
 */
export function wholePeakAtSourceDb(run: Run, ceiling: Ceiling | undefined): number | undefined {
  const whole = ceiling && ceiling.atSourceDb - ceiling.headroomDb
  return whole !== undefined && whole > run.atSource.peak + 0.3 ? whole : undefined
}

/** Whether a point has nothing to show and joins the column before it. */
function joinsColumnBefore(point: Point): boolean {
  if (
    point.kind === 'low-cut' ||
    point.kind === 'duck' ||
    point.kind === 'listen' ||
    point.kind === 'junction' ||
    point.kind === 'sum'
  )
    return true
  const silent = point.ownNoiseAtSourceDb === -Infinity
  // a plain cable has nothing to show
  if (point.kind === 'piece') return silent && own(point).length === 0
  return point.kind === 'recording' && silent
}

/** The columns of a run, left to right. */
export function columnsOf(run: Run): Column[] {
  const columns: Column[] = []
  run.points.forEach((point, index) => {
    const last = columns.at(-1)
    if (last && joinsColumnBefore(point)) {
      last.points.push(index)
      if (point.part === last.part) last.controls = [...new Set([...last.controls, ...own(point)])]
      merge(last, point)
      return
    }
    columns.push({
      points: [index],
      part: point.part,
      name: point.name,
      partName: point.partName,
      controls: own(point),
      ceiling: tightest(point.ceilings),
      noiseAtSourceDb: point.noiseAtSourceDb,
      ownNoiseAtSourceDb: point.ownNoiseAtSourceDb,
      pauseNoiseAtSourceDb: point.pauseNoiseAtSourceDb,
      domain: point.domain,
      gainFromSourceDb: point.gainFromSourceDb,
    })
  })
  return columns
}

function merge(column: Column, point: Point): void {
  const ceiling = tightest([...(column.ceiling ? [column.ceiling] : []), ...point.ceilings])
  column.ceiling = ceiling
  column.noiseAtSourceDb = point.noiseAtSourceDb
  column.pauseNoiseAtSourceDb = point.pauseNoiseAtSourceDb
  column.ownNoiseAtSourceDb = powerSumDb([column.ownNoiseAtSourceDb, point.ownNoiseAtSourceDb])
  column.gainFromSourceDb = point.gainFromSourceDb
}

/** A piece shows its own control only, though its neighbours on the link change it too. */
const own = (point: Point): string[] => point.controls.filter((key) => key.startsWith(`${point.part}.`))

const tightest = (ceilings: readonly Ceiling[]): Ceiling | undefined =>
  ceilings.reduce<Ceiling | undefined>(tighter, undefined)
