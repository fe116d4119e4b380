import { agcGainInPauseDb, agcLossAfterStrikeDb } from '../dynamics'
import { type Gear, type Stage, stageOfNode } from '../model'
import type { Run } from './run'

/** What automatic gain does to a run as time goes on. */
export interface PauseStory {
  partName: string
  /** Rise of the noise so many seconds into a pause, dB. */
  rises: { afterS: number; db: number }[]
  /** How far a sentence that begins one second after the loudest moment lies too low, dB. */
  lossAfterLoudDb: number
}

const momentsS = [1, 3, 10]

/**
 * The pauses of a run under automatic gain. Undefined where there is none that acts.
 *
 * @param gearOf the thing that a part of the chain is
 */
export function pauseStory(run: Run, gearOf: (part: string) => Gear | undefined): PauseStory | undefined {
  if (run.pauseRiseDb < 1) return undefined
  const index = run.points.findIndex(({ kind }) => kind === 'agc')
  const [before, point] = [run.points[index - 1], run.points[index]]
  const gear = point && gearOf(point.part)
  const stage: Stage | undefined = gear && stageOfNode(gear, point.node)
  if (!before || !point || stage?.kind !== 'agc') return undefined
  const { typical, loudest } = before.rmsDb
  const inPause = Math.max(before.noiseWithPlaceDb, point.heldDb ?? -Infinity)
  const start = agcGainInPauseDb(stage, typical, inPause, 0)
  return {
    partName: point.partName,
    rises: momentsS.map((afterS) => ({
      afterS,
      db: agcGainInPauseDb(stage, typical, inPause, afterS) - start,
    })),
    lossAfterLoudDb: agcLossAfterStrikeDb(stage, typical, loudest, 1),
  }
}
