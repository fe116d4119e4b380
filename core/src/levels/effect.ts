import { settledAgcGainDb, settledLimiterGainDb } from '../dynamics'
import {
  type Amount,
  type CeilingShape,
  type Figure,
  type GearKind,
  type Position,
  type Stage,
  valueOf,
} from '../model'
import {
  calibratorSplDb,
  dbuFromDbv,
  dbuMinusDbv,
  flatNoiseAWeightingDb,
  inputNoiseAtSourceDbuA,
  powerDb,
  powerFromDb,
  sineEquivalentPeakDb,
} from '../units'
import { typicalCapsule, typicalEarsDbSplAtVolt, typicalOf } from './typical'

/** Where a control stands, by `part.control`. */
export type At = (key: string) => Position

/** RMS levels of one source in the local unit of a point (dB SPL, dBu or dBFS), and what stands behind it. */
export interface Flow {
  quietestDb: number
  typicalDb: number
  loudestDb: number
  crestDb: number
  /** Impedance the next input looks back into, ohm. */
  sourceOhm: number
  /** Whose sound it is, where that matters: automatic gain may be held by another channel of the same source. */
  source?: string
}

/** What a node does to a flow. Levels and noises are in the units of its input and output. */
export interface Effect {
  quietestGainDb: number
  typicalGainDb: number
  loudestGainDb: number
  /** A-weighted noise added at the input and at the output; -Infinity for none. */
  inputNoiseDb: number
  outputNoiseDb: number
  /** The largest sine at the input and at the output; Infinity for none. */
  inputCeilingDb: number
  outputCeilingDb: number
  shape: CeilingShape
  sourceOhm: number
}

export type EffectOf = (flow: Flow, at: At) => Effect

type Extras = Partial<
  Pick<Effect, 'inputNoiseDb' | 'outputNoiseDb' | 'inputCeilingDb' | 'outputCeilingDb' | 'shape'>
>
const nothing: Extras = {}

/** An effect of one gain for every level. Spelt out field by field: it is made at every stage of every evaluation. */
export const steady = (gainDb: number, sourceOhm: number, more: Extras = nothing): Effect => ({
  quietestGainDb: gainDb,
  typicalGainDb: gainDb,
  loudestGainDb: gainDb,
  inputNoiseDb: more.inputNoiseDb ?? -Infinity,
  outputNoiseDb: more.outputNoiseDb ?? -Infinity,
  inputCeilingDb: more.inputCeilingDb ?? Infinity,
  outputCeilingDb: more.outputCeilingDb ?? Infinity,
  shape: more.shape ?? 'flat',
  sourceOhm,
})

/** The flow after a node. */
export const flowAfter = (flow: Flow, effect: Effect): Flow => ({
  quietestDb: flow.quietestDb + effect.quietestGainDb,
  typicalDb: flow.typicalDb + effect.typicalGainDb,
  loudestDb: flow.loudestDb + effect.loudestGainDb,
  crestDb: flow.crestDb,
  sourceOhm: effect.sourceOhm,
  source: flow.source,
})

/** The loudest peak of a flow, sine-equivalent. */
export const loudestPeakDb = (flow: Flow): number => sineEquivalentPeakDb(flow.loudestDb, flow.crestDb)

/** What an amount comes to with its control where it stands. */
export function amountDb(amount: Amount, part: string, at: At): number {
  if (typeof amount === 'number') return amount
  const position = at(`${part}.${amount.control}`)
  if ('at' in amount) return amount.at[position] ?? 0
  if ('points' in amount) return alongPoints(amount.points, Number(position))
  return amount.offset + amount.perUnit * Number(position)
}

function alongPoints(points: readonly (readonly [number, number])[], position: number): number {
  const after = points.findIndex(([x]) => x >= position)
  if (after === 0) return points[0]![1]
  if (after === -1) return points.at(-1)![1]
  const [x0, y0] = points[after - 1]!
  const [x1, y1] = points[after]!
  return y0 + ((y1 - y0) * (position - x0)) / (x1 - x0)
}

const evenTo24kHzADb = flatNoiseAWeightingDb(24_000, 0.5)

/**
 * Noise of word length alone, dBFS(A): quantising in steps of 2^(1 - bits) with triangular dither, 4.77 dB over
 * the bare step noise of -(6.02 bits + 1.76) dB re a full-scale sine, even from 0 Hz to half of 48 kHz, A-weighted.
 */
export const wordLengthNoiseDbfsA = (bits: number): number =>
  -(20 * bits * Math.log10(2) + powerDb(1.5)) + powerDb(3) + evenTo24kHzADb

/** Whether a stage acts with its switch where it stands; one without a switch always does. */
export const stageActs = (stage: Stage, part: string, at: At): boolean =>
  !('when' in stage) || !stage.when || stage.when.is.includes(`${at(`${part}.${stage.when.control}`)}`)

/** Compiles a stage of a part into the function that the engine and the search both run. */
export function effectOfStage(stage: Stage, part: string, kind: GearKind): EffectOf {
  const typical = typicalOf(kind)
  const level = (figure: Figure | undefined, unknown: number, missing: number) =>
    figure === undefined ? missing : valueOf(figure, unknown)
  const acts = (at: At) => stageActs(stage, part, at)

  switch (stage.kind) {
    case 'transducer': {
      const gainDb =
        dbuFromDbv(valueOf(stage.sensitivityDbvPa, typicalCapsule.sensitivityDbvPa)) - calibratorSplDb
      const effect = steady(gainDb, 0, {
        inputNoiseDb: valueOf(stage.selfNoiseDba, typicalCapsule.selfNoiseDba),
        inputCeilingDb: valueOf(stage.maximumDbSpl, typicalCapsule.maximumDbSpl),
        shape: stage.ceilingShape,
      })
      return () => effect
    }
    case 'gain': {
      const statedDbu = level(stage.inputNoiseDbuA, typical.inputNoiseDbuA, -Infinity)
      const statedOhm = level(stage.inputNoiseAtOhm, 150, 150)
      const more = {
        inputCeilingDb: level(stage.inputCeilingDbu, typical.inputCeilingDbu, Infinity),
        outputNoiseDb: level(stage.outputNoiseDbuA, typical.outputNoiseDbuA, -Infinity),
        outputCeilingDb: level(stage.outputCeilingDbu, typical.outputCeilingDbu, Infinity),
        shape: stage.ceilingShape,
      }
      return (flow, at) =>
        acts(at)
          ? steady(amountDb(stage.gainDb, part, at), 0, {
              ...more,
              inputNoiseDb:
                statedDbu === -Infinity
                  ? -Infinity
                  : flow.sourceOhm > 0
                    ? inputNoiseAtSourceDbuA(statedDbu, statedOhm, flow.sourceOhm)
                    : statedDbu,
            })
          : steady(0, flow.sourceOhm)
    }
    case 'pad': {
      const more = { outputNoiseDb: level(stage.outputNoiseDbuA, typical.outputNoiseDbuA, -Infinity) }
      return (flow, at) =>
        acts(at) ? steady(-amountDb(stage.lossDb, part, at), flow.sourceOhm, more) : steady(0, flow.sourceOhm)
    }
    case 'digital-gain':
      return (_, at) => steady(amountDb(stage.gainDb, part, at), 0)
    case 'low-cut':
      return (flow) => steady(0, flow.sourceOhm)
    case 'listen': {
      const effect = steady(valueOf(stage.sensitivityDbSplAtVolt, typicalEarsDbSplAtVolt) - dbuMinusDbv, 0)
      return () => effect
    }
    case 'duck':
      return (flow, at) => steady(acts(at) ? -stage.depthDb : 0, flow.sourceOhm)
    case 'limiter':
      return (flow, at) => {
        if (!acts(at)) return steady(0, 0)
        const gain = (rmsDb: number) => settledLimiterGainDb(stage, sineEquivalentPeakDb(rmsDb, flow.crestDb))
        return {
          ...steady(0, 0),
          quietestGainDb: gain(flow.quietestDb),
          typicalGainDb: gain(flow.typicalDb),
          loudestGainDb: gain(flow.loudestDb),
        }
      }
    case 'agc':
      return (flow, at) => {
        if (!acts(at)) return steady(0, 0)
        return {
          ...steady(0, 0),
          quietestGainDb: settledAgcGainDb(stage, flow.quietestDb),
          typicalGainDb: settledAgcGainDb(stage, flow.typicalDb),
          loudestGainDb: settledAgcGainDb(stage, flow.loudestDb),
        }
      }
    case 'converter-in': {
      const fullScaleDbu = valueOf(stage.fullScaleDbu, typical.fullScaleDbu)
      const fromBits = stage.bits ? wordLengthNoiseDbfsA(stage.bits) : -Infinity
      const effect = steady(-fullScaleDbu, 0, {
        inputCeilingDb: fullScaleDbu,
        outputNoiseDb: level(stage.noiseDbfsA, typical.noiseDbfsA, fromBits),
      })
      return () => effect
    }
    case 'converter-out': {
      const fullScaleDbu = valueOf(stage.fullScaleDbu, typical.fullScaleDbu)
      const effect = steady(fullScaleDbu, 0, {
        inputCeilingDb: 0,
        outputNoiseDb: level(stage.outputNoiseDbuA, typical.outputNoiseDbuA, -Infinity),
      })
      return () => effect
    }
    case 'radio': {
      const ceilingDbu = valueOf(stage.ceilingDbu, 0)
      const effect = steady(0, 0, {
        inputCeilingDb: ceilingDbu,
        outputNoiseDb: ceilingDbu - valueOf(stage.dynamicRangeDb, 95),
      })
      return () => effect
    }
    case 'recording': {
      const effect = steady(0, 0, {
        inputCeilingDb: stage.floating ? Infinity : 0,
        outputNoiseDb: stage.bits && !stage.floating ? wordLengthNoiseDbfsA(stage.bits) : -Infinity,
      })
      return () => effect
    }
  }
}

/** Gain of an automatic gain in a pause, when only noise of a given level comes in; 0 for any other stage. */
export function pauseGainDb(
  stage: Stage | undefined,
  part: string,
  at: At,
  noisePower: number,
): number | undefined {
  if (stage?.kind !== 'agc') return undefined
  if (!stageActs(stage, part, at)) return undefined
  return settledAgcGainDb(stage, powerDb(noisePower))
}

/** Relative noise power of a level in dB; 0 for -Infinity. */
export const noisePower = (db: number): number => (db === -Infinity ? 0 : powerFromDb(db))
