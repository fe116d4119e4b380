import type { TimeRange } from '../model'
import { quantile } from './level-series'

/** What is under 40 Hz, and what is over it, in steps of 10 ms, dB. */
export interface DeepLevels {
  deep: Float32Array
  rest: Float32Array
}
export interface Burst extends TimeRange {
  kind: 'wind' | 'pop'
  levelDbfs: number
}

const stepS = 0.01
/** Deep sound stands so far over what there is of it as a rule, and is no softer than the rest, within so much. */
const overUsualDb = 12
const underRestDb = 2
/** Softer than this under the speech it is not noticed. */
const underSpeechDb = 22
const joinS = 0.16
const shortestWindS = 0.25
const popS = 0.02

/** Finds gusts of wind, and pops of breath and thumps: deep pressure that comes and goes. */
export function burstsIn({ deep, rest }: DeepLevels, speechDb: number): Burst[] {
  const usual = quantile(deep, 0.3)
  const limit = Math.max(usual + overUsualDb, speechDb - underSpeechDb, -70)
  const found: Burst[] = []
  let from = -1
  let last = -1
  const close = () => {
    if (from < 0) return
    const burst = { fromS: from * stepS, toS: (last + 1) * stepS, levelDbfs: highest(deep, from, last) }
    const lengthS = burst.toS - burst.fromS
    if (lengthS >= shortestWindS) found.push({ kind: 'wind', ...burst })
    else if (lengthS >= popS) found.push({ kind: 'pop', ...burst })
    from = -1
  }
  for (let index = 0; index < deep.length; index++) {
    const is = deep[index]! > limit && deep[index]! > rest[index]! - underRestDb
    if (is && from < 0) from = index
    if (is) last = index
    else if (from >= 0 && (index - last) * stepS > joinS) close()
  }
  close()
  return found
}
const highest = (levels: Float32Array, from: number, to: number): number => {
  let most = -Infinity
  for (let index = from; index <= to; index++) most = Math.max(most, levels[index]!)
  return most
}
