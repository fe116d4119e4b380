import { lastOf } from '@iron-hush/core/model'
import { scaleLinear } from 'd3-scale'
import { computed, type Ref } from 'vue'
import { type Column, type Run, wholePeakAtSourceDb, whereItStops } from '@iron-hush/core/levels'
import { powerDb, powerFromDb } from '@iron-hush/core/units'
import { domainOf, type ScaleMode, shiftOf } from './scale'

export interface MapProps {
  run: Run
  columns: Column[]
  mode: ScaleMode
  selected: number
  pins: string[]
  /** The noise of the place in words, and the words for the three moments. */
  placeWords: string
  momentWords: { loudest: string; typical: string; quietest: string }
  /** How far a loud moment may yet lie over the plan. */
  spreadDb: number
  /** Whether what the microphone hears beside its source is drawn: the noise of the place, the room's own echo. */
  ambience: boolean
}

/** Room around the columns, pixels; less at the sides of a small screen. */
const wideMargin = { left: 64, right: 18, top: 10, bottom: 4 }
const smallMargin = { ...wideMargin, left: 40, right: 8 }
export const isSmall = (width: number) => width < 600
export const marginFor = (width: number) => (isSmall(width) ? smallMargin : wideMargin)
/** Gap between neighbouring columns, px. */
export const gap = 5

/** A column as it is drawn, in pixels; without a reading where it has none on this scale, or nothing arrives. */
export type DrawnColumn = { index: number; x: number; column: Column } & (
  | { reading: false; dead: boolean }
  | {
      reading: true
      whole?: number
      ceiling?: number
      floor: number
      /** Height of the stage's own part, on top of what came before it. */
      own: number
      pause?: number
      peak: number
      typical: number
      quietest: number
      shift: number
    }
)

/** Where everything of the level map lies, in pixels, for a size of its frame. */
export function useMapGeometry(
  props: MapProps,
  { width, height }: { width: Ref<number>; height: Ref<number> },
) {
  const domain = computed(() => domainOf(props.mode, props.run))
  const margin = computed(() => marginFor(width.value))
  const y = computed(() =>
    scaleLinear(
      [domain.value.low, domain.value.high],
      [height.value - margin.value.bottom, margin.value.top],
    ).clamp(true),
  )
  const step = computed(() => (width.value - margin.value.left - margin.value.right) / props.columns.length)
  /** The voice lies straight across: the scale is referred to the source, or to the file. */
  const steady = computed(() => props.mode !== 'volts')
  const wholeShift = computed(() => (props.mode === 'dbfs' ? lastOf(props.run.points).gainFromSourceDb : 0))
  const drawn = useDrawnColumns(props, { y, step, margin })
  const band = computed(() => {
    const { peak, typical, quietest } = props.run.atSource
    const at = (db: number) => ({ y: y.value(db + wholeShift.value), db: db + wholeShift.value })
    return { above: at(peak + props.spreadDb), peak: at(peak), typical: at(typical), quietest: at(quietest) }
  })
  /** Other sounds at the microphone: the height of each, and of their sum. */
  const ambient = computed(() => {
    const { placeNoise, echo } = props.run.atSource
    if (!props.ambience || !steady.value) return undefined
    const at = (db: number) => (Number.isFinite(db) ? y.value(db + wholeShift.value) : undefined)
    return {
      place: at(placeNoise),
      echo: at(echo),
      together: at(powerDb(powerFromDb(placeNoise) + powerFromDb(echo))),
    }
  })
  return { domain, margin, y, step, steady, drawn, band, ambient, ...useMarked(props, drawn) }
}

function useDrawnColumns(
  props: MapProps,
  { y, step, margin }: { y: Ref<(db: number) => number>; step: Ref<number>; margin: Ref<{ left: number }> },
) {
  /** The column from which on nothing arrives. */
  const deadFrom = computed(() => {
    const stops = whereItStops(props.run)
    const index = props.columns.findIndex(({ part }) => stops && part === stops.part)
    return index < 0 ? Infinity : index
  })
  return computed(() =>
    props.columns.map((column, index): DrawnColumn => {
      const place = { index, x: margin.value.left + index * step.value, column }
      const dead = index >= deadFrom.value
      const shift = dead ? undefined : shiftOf(props.mode, props.run, column)
      if (shift === undefined) return { ...place, reading: false, dead }
      const at = (db: number) => y.value(db + shift)
      const { noiseAtSourceDb, ownNoiseAtSourceDb, pauseNoiseAtSourceDb, ceiling } = column
      const before = powerDb(Math.max(1e-30, powerFromDb(noiseAtSourceDb) - powerFromDb(ownNoiseAtSourceDb)))
      const swells = pauseNoiseAtSourceDb - noiseAtSourceDb > 1 && props.run.pauseRiseDb > 1
      const whole = wholePeakAtSourceDb(props.run, ceiling)
      return {
        ...place,
        reading: true,
        whole: whole === undefined ? undefined : at(whole),
        ceiling: ceiling && at(ceiling.atSourceDb),
        floor: at(noiseAtSourceDb),
        own: Number.isFinite(ownNoiseAtSourceDb) ? Math.max(0, at(before) - at(noiseAtSourceDb)) : 0,
        pause: swells ? at(pauseNoiseAtSourceDb) : undefined,
        peak: at(props.run.atSource.peak),
        typical: at(props.run.atSource.typical),
        quietest: at(props.run.atSource.quietest),
        shift,
      }
    }),
  )
}

/** The column that is tightest, and the one that makes most of the hiss. */
function useMarked(props: MapProps, drawn: Ref<DrawnColumn[]>) {
  const narrowest = computed(() => {
    const { tightest } = props.run
    const index = props.columns.findIndex(({ points }) => tightest && points.includes(tightest.point))
    const column = drawn.value[index]
    return tightest && column?.reading
      ? { ...column, headroomDb: tightest.ceiling.headroomDb, shape: tightest.ceiling.shape }
      : undefined
  })
  const noisiest = computed(() => {
    const share = props.run.shares[0]
    const index = props.columns.findIndex(
      ({ points }) => share && points.some((point) => props.run.points[point]!.node === share.node),
    )
    const column = drawn.value[index]
    return share && column?.reading ? { ...column, share: share.share } : undefined
  })
  return { narrowest, noisiest }
}
