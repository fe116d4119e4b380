import { controlKey, type LineUpReading, type Position, valueOf, lastOf } from '../model'
import { basisOfWay } from './basis'
import { type Bench, gainBetween, placedBox, type ToneWay } from './bench'
import { keyOf, type LevelControl, priorOf } from './level-control'
import { type Law, lawOf, type LawReading } from './law'

/** Uncertainty of a level read off a meter by eye, and off a clip: one standard deviation, dB. */
export const meterDb = 0.5
export const clipDb = 0.2

/** A level read at the end of a way, with how sure it is. */
export interface ReadLevel {
  levelDbfs: number
  toleranceDb: number
}

/** The level of the tone that a reading tells of; undefined where it tells none. */
export function readLevel(bench: Bench, box: string, { result }: LineUpReading): ReadLevel | undefined {
  if (result.kind === 'level') return { levelDbfs: result.levelDbfs, toleranceDb: meterDb }
  if (result.kind === 'clip')
    return result.toneDbfs === null ? undefined : { levelDbfs: result.toneDbfs, toleranceDb: clipDb }
  if (result.kind !== 'mark') return undefined
  const marks = placedBox(bench, box).gear.meter?.marks ?? []
  const at = marks.findIndex(({ id }) => id === result.mark)
  const mark = marks[at]
  if (!mark) return undefined
  // somewhere between this mark and the next: as likely anywhere
  const low = valueOf(mark.atDbfs, 0)
  const next = marks[at + 1]
  const high = next ? valueOf(next.atDbfs, 0) : Math.max(0, low)
  return { levelDbfs: (low + high) / 2, toleranceDb: Math.max(meterDb, (high - low) / Math.sqrt(12)) }
}

/**
 * The newest reading of a tone at each step of a way, whatever its controls stood at: what a law can be made of. Those
 * that were taken with another chain are none.
 */
export function toneReadings(bench: Bench, way: ToneWay): LineUpReading[] {
  const { box } = way.run.end
  const basis = basisOfWay(bench, way)
  const newest = new Map<string, LineUpReading>()
  for (const reading of bench.patch.lineUp) {
    const { step, basis: of, result } = reading
    const isTone = step.startsWith(`tone ${box} `) || step === `overload ${box}`
    if (isTone && of === basis && !isCut(result)) newest.set(step, reading)
  }
  return [...newest.values()]
}

/** A clipped tone shows the ceiling, not the gain. */
const isCut = (result: LineUpReading['result']): boolean =>
  result.kind === 'clip' && (result.ceilingDbfs !== null || (result.distortionDb ?? -99) > mostDistortionDb)
export const mostDistortionDb = -34

/** A reading as it counts for the law of a control: gain of the control's stages at a position. */
export interface CountedReading extends LawReading {
  reading: LineUpReading
}

/** The law of a control with the readings that it was made of. */
export interface ControlLaw {
  law: Law
  readings: CountedReading[]
  /** The level of the incoming tone is not known: the law is right but for an amount, which is taken from the usual one. */
  relative: boolean
}

/**
 * What the readings say of a control at the end of a way. What a tone lost and gained on its way to the control is taken
 * from the figures of the chain as it stood at that reading; the rest is the control's.
 *
 * @param before only what was read before this moment
 */
export function lawOfControl(bench: Bench, way: ToneWay, control: LevelControl, before?: string): ControlLaw {
  const key = keyOf(way.run.end.box, control)
  const relative = way.sender === undefined
  const counted = toneReadings(bench, way).flatMap((reading): CountedReading[] => {
    if (before && reading.at >= before) return []
    const level = readLevel(bench, way.run.end.box, reading)
    const position = control.positions.indexOf(reading.settings[key] as Position)
    if (!level || position < 0) return []
    const others = otherGainDb(bench, way, control, reading, position)
    if (others === undefined) return []
    return [
      {
        reading,
        position,
        gainDb: level.levelDbfs - others,
        toleranceDb: level.toleranceDb,
      },
    ]
  })
  const readings = relative ? anchored(control, counted) : counted
  return { law: lawOf(priorOf(control), readings), readings, relative }
}

/**
 * How far the tone really lay from what was asked, dB: as the recorder that sends it showed it on its own meter. Every tone
 * sent from there is off by as much.
 */
export function sentOffDb(bench: Bench, way: ToneWay): number {
  const sender = way.sender === undefined ? undefined : way.run.points[way.sender]
  if (!sender) return 0
  const shown = bench.patch.lineUp.findLast(
    ({ step, basis }) => step === `send ${sender.node}` && basis === basisOfWay(bench, way),
  )
  const read = shown && readLevel(bench, sender.part, shown)
  return read && shown.playedDbfs !== null ? read.levelDbfs - shown.playedDbfs : 0
}

/** Level at the end if the control's own stages had a gain of 0 dB; for a tone of unknown level, but for an amount. */
function otherGainDb(
  bench: Bench,
  way: ToneWay,
  control: LevelControl,
  { settings, playedDbfs }: LineUpReading,
  position: number,
): number | undefined {
  const run = bench.runAt(way.run.id, settings)
  if (!run) return undefined
  const end = lastOf(run.points)
  const from = way.sender === undefined ? run.points[way.entry] : run.points[way.sender]
  if (!from || (way.sender !== undefined && playedDbfs === null)) return undefined
  const sentDbfs = (playedDbfs ?? 0) + sentOffDb(bench, way)
  return sentDbfs + gainBetween(from, end) - control.gainsDb[position]!
}

/** Readings of a tone of unknown level, moved as a whole to lie around the usual law. */
function anchored(control: LevelControl, readings: readonly CountedReading[]): CountedReading[] {
  if (readings.length === 0) return []
  const off =
    readings.reduce((sum, { gainDb, position }) => sum + gainDb - control.gainsDb[position]!, 0) /
    readings.length
  return readings.map((reading) => ({ ...reading, gainDb: reading.gainDb - off }))
}

/** Settings with one control elsewhere. */
export const withPosition = (
  settings: Readonly<Record<string, Position>>,
  box: string,
  control: string,
  position: Position,
): Record<string, Position> => ({ ...settings, [controlKey(box, control)]: position })
