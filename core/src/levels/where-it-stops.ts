import type { Point, Run } from './run'

/** Level that no working chain falls to, in any unit. */
export const silenceDb = -140

/** The point where a run stops because the wiring passes nothing. */
export function whereItStops(run: Run): Point | undefined {
  const { stop } = run
  if (stop) return run.points.find(({ part }) => part === stop.part) ?? run.points[0]
  return run.typicalDb < silenceDb ? run.points.find(({ rmsDb }) => rmsDb.typical < silenceDb) : undefined
}
