import {
  type Amount,
  type CeilingShape,
  type Figure,
  type GearKind,
  type Position,
  type Stage,
  valueOf,
  controlKey,
  lastOf,
} from '../model'
import {
  calibratorSplDb,
  dbuFromDbv,
  dbuMinusDbv,
  flatNoiseAWeightingDb,
  ownNoiseDbuA,
  powerDb,
  powerFromDb,
} from '../units'
import { typicalCapsule, typicalEarsDbSplAtVolt, typicalOf } from './typical'

/** Position of a control, by `part.control`. */
export type PositionOf = (key: string) => Position

/** A stage whose gain follows the level in it or in another channel. */
export type FollowingStage = Extract<Stage, { kind: 'agc' | 'limiter' | 'duck' }>

/** What a node does with its controls where they stand. Levels and noises are in the units of its input and output. */
export interface Reading {
  /** Gain at every level; a stage that follows the level adds its own. */
  gainDb: number
  /** A switch or a knob lets nothing through. */
  isOff: boolean
  /** A-weighted noise added at the input and at the output; -Infinity for none. */
  inputNoiseDb: number
  outputNoiseDb: number
  /** The largest sine at the input and at the output; Infinity for none. */
  inputCeilingDb: number
  outputCeilingDb: number
  shape: CeilingShape
  follows?: FollowingStage
  /** Corner of a low-cut that acts: the voice passes, the rumble of the place does not. */
  lowCutHz?: number
}

export type Read = (at: PositionOf) => Reading

type Figures = Partial<Omit<Reading, 'gainDb'>>

/** A reading with this gain, and only the noise and ceilings that are given. */
export const plainReading = (gainDb: number, more: Figures = {}): Reading => ({
  gainDb,
  isOff: more.isOff ?? false,
  inputNoiseDb: more.inputNoiseDb ?? -Infinity,
  outputNoiseDb: more.outputNoiseDb ?? -Infinity,
  inputCeilingDb: more.inputCeilingDb ?? Infinity,
  outputCeilingDb: more.outputCeilingDb ?? Infinity,
  shape: more.shape ?? 'flat',
  follows: more.follows,
  lowCutHz: more.lowCutHz,
})

/** Gain below which a control has switched its input off: no knob attenuates this much, dB. */
const switchedOffDb = -100

/** The reading of a node that passes everything unchanged. */
export const through: Reading = plainReading(0)

/** A reading of a gain that a switch or a knob may turn all the way down. */
export const turnedReading = (gainDb: number, more: Figures = {}): Reading =>
  plainReading(gainDb, { ...more, isOff: gainDb <= switchedOffDb })

/** The value of an amount at the present position of its control, dB. */
export function amountDb(amount: Amount, part: string, at: PositionOf): number {
  if (typeof amount === 'number') return amount
  const position = at(controlKey(part, amount.control))
  if ('at' in amount) return amount.at[position] ?? 0
  if ('points' in amount) return alongPoints(amount.points, Number(position))
  return amount.offset + amount.perUnit * Number(position)
}

function alongPoints(points: readonly (readonly [number, number])[], position: number): number {
  const after = points.findIndex(([x]) => x >= position)
  if (after === 0) return points[0]![1]
  if (after === -1) return lastOf(points)[1]
  const [x0, y0] = points[after - 1]!
  const [x1, y1] = points[after]!
  return y0 + ((y1 - y0) * (position - x0)) / (x1 - x0)
}

const evenTo24kHzADb = flatNoiseAWeightingDb(24_000, 0.5)

/** White noise up to 24 kHz as it swings, over its A-weighted level, dB. */
export const whiteOverWeightedDb = -evenTo24kHzADb

/**
 * Noise of word length alone, dBFS(A): quantising in steps of 2^(1 - bits) with triangular dither, 4.77 dB over
 * the bare step noise of -(6.02 bits + 1.76) dB re a full-scale sine, even from 0 Hz to half of 48 kHz, A-weighted.
 */
export const wordLengthNoiseDbfsA = (bits: number): number =>
  -(20 * bits * Math.log10(2) + powerDb(1.5)) + powerDb(3) + evenTo24kHzADb

/** Whether a stage acts at the present position of its switch; one without a switch always does. */
export const stageActs = (stage: Stage, part: string, at: PositionOf): boolean =>
  !('when' in stage) || !stage.when || stage.when.is.includes(`${at(controlKey(part, stage.when.control))}`)

/** Relative noise power of a level in dB; 0 for -Infinity. */
export const noisePower = (db: number): number => (db === -Infinity ? 0 : powerFromDb(db))

/** The value of a figure; the typical one if it is unknown, the `missing` one if it was left out. */
const level = (figure: Figure | undefined, unknown: number, missing: number): number =>
  figure === undefined ? missing : valueOf(figure, unknown)

/**
 * Compiles a stage of a part into what it reads as.
 *
 * @param behindLink the stage is the first amplifier behind a socket: the link brings the thermal noise of what is
 *   plugged in, and the amplifier's own noise is what its figure says without that of the source it was stated for
 */
export function readingOfStage(stage: Stage, part: string, kind: GearKind, behindLink = false): Read {
  const whenActing =
    (reading: Read): Read =>
    (at) =>
      stageActs(stage, part, at) ? reading(at) : through
  switch (stage.kind) {
    case 'transducer':
      return always(transducerReading(stage))
    case 'gain':
      return whenActing(amplifierReading(stage, part, kind, behindLink))
    case 'pad': {
      const more = { outputNoiseDb: level(stage.outputNoiseDbuA, typicalOf(kind).outputNoiseDbuA, -Infinity) }
      return whenActing((at) => turnedReading(-amountDb(stage.lossDb, part, at), more))
    }
    case 'digital-gain':
      return (at) => turnedReading(amountDb(stage.gainDb, part, at))
    case 'low-cut':
      return whenActing(always(plainReading(0, { lowCutHz: stage.cornerHz })))
    case 'listen':
      return always(plainReading(valueOf(stage.sensitivityDbSplAtVolt, typicalEarsDbSplAtVolt) - dbuMinusDbv))
    case 'duck':
    case 'limiter':
    case 'agc':
      return whenActing(always(plainReading(0, { follows: stage })))
    case 'converter-in':
    case 'converter-out':
      return always(converterReading(stage, kind))
    case 'radio': {
      const ceilingDbu = valueOf(stage.ceilingDbu, 0)
      return always(
        plainReading(0, {
          inputCeilingDb: ceilingDbu,
          outputNoiseDb: ceilingDbu - valueOf(stage.dynamicRangeDb, 95),
        }),
      )
    }
    case 'recording':
      return always(
        plainReading(0, {
          inputCeilingDb: stage.floating ? Infinity : 0,
          outputNoiseDb: stage.bits && !stage.floating ? wordLengthNoiseDbfsA(stage.bits) : -Infinity,
        }),
      )
  }
}

const always =
  (reading: Reading): Read =>
  () =>
    reading

function transducerReading(stage: Extract<Stage, { kind: 'transducer' }>): Reading {
  const gainDb =
    dbuFromDbv(valueOf(stage.sensitivityDbvPa, typicalCapsule.sensitivityDbvPa)) - calibratorSplDb
  return plainReading(gainDb, {
    inputNoiseDb: valueOf(stage.selfNoiseDba, typicalCapsule.selfNoiseDba),
    inputCeilingDb: valueOf(stage.maximumDbSpl, typicalCapsule.maximumDbSpl),
    shape: stage.ceilingShape,
  })
}

function amplifierReading(
  stage: Extract<Stage, { kind: 'gain' }>,
  part: string,
  kind: GearKind,
  behindLink: boolean,
): Read {
  const typical = typicalOf(kind)
  const stated = level(stage.inputNoiseDbuA, typical.inputNoiseDbuA, -Infinity)
  const figures: Figures = {
    inputNoiseDb:
      behindLink && stated > -Infinity
        ? ownNoiseDbuA(stated, level(stage.inputNoiseAtOhm, 150, 150))
        : stated,
    inputCeilingDb: level(stage.inputCeilingDbu, typical.inputCeilingDbu, Infinity),
    outputNoiseDb: level(stage.outputNoiseDbuA, typical.outputNoiseDbuA, -Infinity),
    outputCeilingDb: level(stage.outputCeilingDbu, typical.outputCeilingDbu, Infinity),
    shape: stage.ceilingShape,
  }
  return (at) => turnedReading(amountDb(stage.gainDb, part, at), figures)
}

function converterReading(
  stage: Extract<Stage, { kind: 'converter-in' | 'converter-out' }>,
  kind: GearKind,
): Reading {
  const typical = typicalOf(kind)
  const fullScaleDbu = valueOf(stage.fullScaleDbu, typical.fullScaleDbu)
  if (stage.kind === 'converter-out')
    return plainReading(fullScaleDbu, {
      inputCeilingDb: 0,
      outputNoiseDb: level(stage.outputNoiseDbuA, typical.outputNoiseDbuA, -Infinity),
    })
  const fromBits = stage.bits ? wordLengthNoiseDbfsA(stage.bits) : -Infinity
  return plainReading(-fullScaleDbu, {
    inputCeilingDb: fullScaleDbu,
    outputNoiseDb: level(stage.noiseDbfsA, typical.noiseDbfsA, fromBits),
  })
}
