import { amountDb } from '../chain'
import { type Control, controlKey, type Gear, type Position, positionsOf, type Stage, lastOf } from '../model'
import type { LawPrior } from './law'

/** A control that sets the level on the way of a tone, with the stages that it turns. */
export interface LevelControl {
  control: Control
  /** Stages it turns, alike in every channel. */
  places: { strip: string; stage: number; field: 'gainDb' | 'lossDb' }[]
  /** Lowest level first. */
  positions: Position[]
  /** Gain of the stages on the way at each of them, as the figures have it, dB. */
  gainsDb: number[]
  /** Its marks are decibels: they are believed, a scale without is not. */
  marked: boolean
  /** Its law was learnt on the real thing, and is so sure where it is least sure; undefined: it was not. */
  learntDb: number | undefined
}

/** How far the law of an unmarked control may be off as a whole, and bend, dB; of one marked in decibels. */
const unmarkedDb = { offsetDb: 4, bendDb: 5 }
const markedDb = { offsetDb: 1.5, bendDb: 0.7 }
/** Smallest span of a law, dB: a control that changes less sets no level. */
const leastSpanDb = 6

export function priorOf({ gainsDb, marked, learntDb, control }: LevelControl): LawPrior {
  const usual = marked ? markedDb : unmarkedDb
  // a law learnt from one or two readings is certain only there
  const surer = (db: number, least: number) => Math.max(least, Math.min(db, learntDb ?? db))
  return {
    typicalDb: gainsDb,
    offsetDb: surer(usual.offsetDb, markedDb.offsetDb),
    bendDb: surer(usual.bendDb, markedDb.bendDb),
    separate: control.kind === 'switch',
  }
}

const amountOf = (stage: Stage) =>
  stage.kind === 'gain' || stage.kind === 'digital-gain'
    ? ({ field: 'gainDb', amount: stage.gainDb, sign: 1 } as const)
    : stage.kind === 'pad'
      ? ({ field: 'lossDb', amount: stage.lossDb, sign: -1 } as const)
      : undefined

/** Controls of a thing that set the level of one of its strips. One that mutes or chooses an input is none. */
export function levelControls(gear: Gear, strips: ReadonlySet<string>): LevelControl[] {
  return gear.controls.flatMap((control): LevelControl[] => {
    const turned = gear.strips.flatMap((strip) =>
      strip.stages.flatMap((stage, index) => {
        const found = amountOf(stage)
        return found && typeof found.amount !== 'number' && found.amount.control === control.id
          ? [{ strip: strip.id, stage: index, ...found }]
          : []
      }),
    )
    const onWay = turned.filter(({ strip }) => strips.has(strip))
    if (onWay.length === 0) return []
    const at = positionsOf(control).map((position) => ({
      position,
      gainDb: onWay.reduce(
        (sum, { amount, sign }) => sum + sign * amountDb(amount, 'box', () => position),
        0,
      ),
    }))
    const rising = at[0]!.gainDb <= lastOf(at).gainDb ? at : at.toReversed()
    const span = lastOf(rising).gainDb - rising[0]!.gainDb
    // a position that silences is a way of switching off
    if (span < leastSpanDb || span > mostSpanDb) return []
    return [
      {
        control,
        places: turned.map(({ strip, stage, field }) => ({ strip, stage, field })),
        positions: rising.map(({ position }) => position),
        gainsDb: rising.map(({ gainDb }) => gainDb),
        learntDb: (gear.learnt ?? []).findLast(({ places }) =>
          places.some((place) => 'strip' in place && onWay.some((each) => isPlace(place, each))),
        )?.toleranceDb,
        marked: control.kind === 'knob' && control.unit.trim().toLowerCase() === 'db',
      },
    ]
  })
}
const mostSpanDb = 100

const isPlace = (
  one: { strip: string; stage: number; field: string },
  other: { strip: string; stage: number; field: string },
): boolean => one.strip === other.strip && one.stage === other.stage && one.field === other.field

/** Of a control on the way of a run: its key. */
export const keyOf = (box: string, { control }: LevelControl): string => controlKey(box, control.id)
