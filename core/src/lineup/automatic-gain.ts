import { burstQuietDb, burstS, toneHz } from '../signals'
import { powerDb } from '../units'

/** Automatic gain as the bursts show it. Levels in dBFS, times in ms; null where the clip does not show it. */
export interface AutomaticGain {
  /** Level that the loud part settles at. */
  targetDbfs: number | null
  /** By how much the gain fell under the loud part. */
  gainFallsDb: number
  attackMs: number | null
  /** From the end of the loud part until the gain begins to rise. */
  holdMs: number | null
  releaseMs: number | null
}

const stepS = 0.005
/** Jump within two steps that marks the edge of the burst, dB. */
const edgeDb = 8
/** Spread of a tone once the gain has settled, dB; noise spreads more. */
const steadyDb = 2
/** Gain that falls by less than this counts as steady, dB. */
const leastFallDb = 1.5
/** A time constant ends where this share of the way is left. */
const leftShare = Math.exp(-1)
/** Share of its rise after which the gain counts as rising. */
const risenShare = 0.08

/**
 * What automatic gain did to the bursts (`testSignal` of that name): the level of the tone in steps of 5 ms, less what was
 * played, is the gain over time. Undefined where the bursts are not found in the clip.
 */
export function automaticGainIn(samples: Float32Array, rateHz: number): AutomaticGain | undefined {
  const levels = toneLevels(samples, rateHz)
  const steps = (seconds: number) => Math.round(seconds / stepS)
  const onset = edgeIn(levels, steps(burstS.loud), levels.length)
  if (onset === undefined) return undefined
  const end = onset + steps(burstS.loud)
  const plateau = levels.subarray(end - steps(0.8), end - steps(0.05))
  if (Math.max(...plateau) - Math.min(...plateau) > steadyDb) return undefined
  const quiet = mean(levels, Math.max(0, onset - steps(0.5)), onset - steps(0.05))
  const settled = mean(levels, end - steps(0.5), end - steps(0.05))
  // level of the loud part if the gain had not changed
  const unturned = quiet - burstQuietDb
  const gainFallsDb = unturned - settled
  if (gainFallsDb < leastFallDb)
    return {
      targetDbfs: null,
      gainFallsDb: Math.max(0, gainFallsDb),
      attackMs: null,
      holdMs: null,
      releaseMs: null,
    }
  const left = settled + leftShare * Math.max(0, levels[onset + 2]! - settled)
  let attack = onset + 2
  while (attack < end && levels[attack]! > left) attack++
  const low = mean(levels, end + steps(0.03), end + steps(0.08))
  const after = Math.min(levels.length - steps(0.1), end + steps(burstS.after))
  const back = mean(levels, after - steps(0.5), after)
  const rise = back - low
  const reaches = (share: number): number | null => {
    for (let step = end + steps(0.08); step < after; step++)
      if (levels[step]! > low + share * rise) return (step - end) * stepS * 1000
    return null
  }
  const isBack = rise > 0.6 * gainFallsDb
  const begins = isBack ? reaches(risenShare) : null
  const risen = isBack ? reaches(1 - leftShare) : null
  // of an exponential rise, from a small share of its way to the share of one time constant
  const releaseMs =
    begins === null || risen === null ? null : (risen - begins) / (1 + Math.log(1 - risenShare))
  return {
    targetDbfs: settled,
    gainFallsDb,
    attackMs: (attack - onset) * stepS * 1000,
    holdMs:
      begins === null || releaseMs === null
        ? null
        : Math.max(0, begins + releaseMs * Math.log(1 - risenShare)),
    releaseMs,
  }
}

/** Level of the tone in each step, re a full-scale sine: its part in phase and across, so that noise counts for little. */
function toneLevels(samples: Float32Array, rateHz: number): Float64Array {
  const length = Math.round(stepS * rateHz)
  return Float64Array.from({ length: Math.floor(samples.length / length) }, (_, step) => {
    let inPhase = 0
    let across = 0
    for (let index = 0; index < length; index++) {
      const frame = step * length + index
      const angle = (2 * Math.PI * toneHz * frame) / rateHz
      inPhase += samples[frame]! * Math.sin(angle)
      across += samples[frame]! * Math.cos(angle)
    }
    return Math.max(-140, powerDb((4 * (inPhase ** 2 + across ** 2)) / length ** 2))
  })
}

const mean = (levels: Float64Array, from: number, to: number): number => {
  const part = levels.subarray(Math.max(0, from), Math.max(1, to))
  return part.reduce((sum, each) => sum + each, 0) / part.length
}

/** The step at which the level jumps most; undefined where nothing jumps, or too late for the loud part to be whole. */
function edgeIn(levels: Float64Array, loudSteps: number, to: number): number | undefined {
  let best: number | undefined
  let most = edgeDb
  for (let step = 40; step + loudSteps < to; step++) {
    const jump = levels[step + 1]! - Math.max(levels[step - 1]!, levels[step - 20]!)
    if (jump > most) {
      most = jump
      best = step
    }
  }
  return best
}
