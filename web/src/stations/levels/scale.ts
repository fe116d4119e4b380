import { lastOf } from '@iron-hush/core/model'
import type { Column, Run } from '@iron-hush/core/levels'

/** How the vertical scale of the level map is read. */
export type ScaleMode = 'source' | 'volts' | 'dbfs'

const step = 20

/** Offset from a level at the source to the reading at a column in a mode; undefined if it has none. */
export function shiftOf(mode: ScaleMode, run: Run, column: Column): number | undefined {
  if (mode === 'source') return 0
  if (mode === 'dbfs') return lastOf(run.points).gainFromSourceDb
  return column.domain === 'volts' ? column.gainFromSourceDb : undefined
}

export interface Domain {
  low: number
  high: number
  lines: number[]
  title: string
}

/** Space above the loudest peak for its label, dB. */
const labelDb = 5

/** The range of the scale. Fixed for a run and mode, so that nothing jumps while a control is turned. */
export function domainOf(mode: ScaleMode, run: Run): Domain {
  const pressure = run.unit === 'dB SPL'
  const forSource = (usual: number) => Math.max(usual, Math.ceil((run.atSource.peak + labelDb) / step) * step)
  const [low, high, title] =
    mode === 'volts'
      ? [-140, 40, 'dBu at each point']
      : mode === 'dbfs'
        ? [-140, 20, `dBFS on ${run.end.boxName}, ${run.end.name}`]
        : pressure
          ? [0, forSource(140), 'dB SPL at the microphone']
          : [-140, forSource(40), 'dBu at the feed']
  return {
    low,
    high,
    title,
    lines: Array.from({ length: (high - low) / step + 1 }, (_, index) => low + index * step),
  }
}
