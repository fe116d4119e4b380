import { plannedPauseS } from '../chain'
import { agcGainAfterDb } from '../dynamics'
import { type Gear, type Stage, stageOfNode } from '../model'
import { powerDb, powerFromDb } from '../units'
import type { Run } from './run'

/** What automatic gain does to a run over time. */
export interface PauseStory {
  partName: string
  /** Rise of the noise after some seconds of a pause, dB. */
  rises: { afterS: number; db: number }[]
  /** Level lost by a sentence that begins one second after the loudest moment, dB. */
  lossAfterLoudDb: number
}

const momentsS = [1, 3, 10]

/**
 * The pauses of a run under automatic gain; undefined where none acts.
 *
 * @param gearOf the thing that a part of the chain is
 */
export function pauseStory(run: Run, gearOf: (part: string) => Gear | undefined): PauseStory | undefined {
  if (run.pauseRiseDb < 1) return undefined
  const point = run.points.find(({ automatic }) => automatic)
  const gear = point && gearOf(point.part)
  const stage: Stage | undefined = gear && stageOfNode(gear, point.node)
  if (!point?.automatic || stage?.kind !== 'agc') return undefined
  const { spokenDb, pauseDb, loudestDb } = point.automatic
  const later = (fromDb: number, toDb: number, afterS: number) => agcGainAfterDb(stage, fromDb, toDb, afterS)
  const gainRise = (afterS: number) => powerFromDb(later(spokenDb, pauseDb, afterS) - spokenDb)
  // noise behind it stays; the share that it raises follows from the planned pause
  const lifted = (powerFromDb(run.pauseRiseDb) - 1) / (gainRise(plannedPauseS) - 1)
  return {
    partName: point.partName,
    rises: momentsS.map((afterS) => ({ afterS, db: powerDb(1 + lifted * (gainRise(afterS) - 1)) })),
    lossAfterLoudDb: Math.max(0, spokenDb - later(loudestDb, spokenDb, 1)),
  }
}
