import type { TimeRange } from '../model'
import { powerDb } from '../units'
import { quantile } from './level-series'

/** Levels of infrasound, and of the rest up to 1 kHz, in steps of some 10 ms, dB. */
export interface DeepLevels {
  stepS: number
  deep: Float32Array
  rest: Float32Array
}
export interface Burst extends TimeRange {
  kind: 'wind' | 'pop'
  levelDbfs: number
  /** Excess of its peak over the threshold, dB. */
  overDb: number
}

/** Levels are averaged over this many steps to either side, since one swing of a pop lasts several. */
const around = 4
/** Infrasound must stand this far above its usual level, dB... */
const overUsualDb = 12
/** ...and at most this far below the rest of the sound, dB: the bass of music lies an octave higher. */
const underRestDb = 9
/** Bursts this far below speech go unnoticed, dB. */
const underSpeechDb = 14
/** Weaker parts around a burst that are within this of its limit belong to it, dB. */
const falteringDb = 6
const joinS = 0.1
/** Gusts falter: pieces closer than the first are one gust if together they last at least the second, s. */
const gustJoinS = 0.45
const shortestWindS = 0.25

/** Finds gusts of wind, and pops of breath and thumps: deep pressure that comes and goes. */
export function burstsIn({ stepS, deep, rest }: DeepLevels, speechDb: number): Burst[] {
  const smoothDeep = smooth(deep)
  const smoothRest = smooth(rest)
  const limit = Math.max(quantile(smoothDeep, 0.4) + overUsualDb, speechDb - underSpeechDb, -70)
  const found: Omit<Burst, 'kind'>[] = []
  let [from, last] = [-1, -1]
  /** The part of it that passes the limit. */
  let [strongFrom, strongLast] = [-1, -1]
  const close = () => {
    if (from < 0) return
    // the widening by the smoothing is taken off again
    const widened = Math.min(around, (last - from) / 2)
    const burst = {
      fromS: (from + widened) * stepS,
      toS: (last - widened + 1) * stepS,
      levelDbfs: highest(deep, strongFrom, strongLast),
      overDb: highest(smoothDeep, strongFrom, strongLast) - limit,
    }
    // otherwise the smoothing smeared it out of something louder with deep tones of its own
    if (strongFrom >= 0 && burst.levelDbfs > limit) found.push(burst)
    from = strongFrom = -1
  }
  for (let index = 0; index < deep.length; index++) {
    // excess over what a burst must exceed
    const overDb = Math.min(smoothDeep[index]! - limit, smoothDeep[index]! - smoothRest[index]! + underRestDb)
    // a weak gust passes it only now and then
    if (overDb > -falteringDb) {
      if (from < 0) from = index
      last = index
    }
    if (overDb > 0) {
      if (strongFrom < 0) strongFrom = index
      strongLast = index
    }
    if (from >= 0 && (index - last) * stepS > joinS) close()
  }
  close()
  return namedBursts(found)
}

/** Pieces near each other are one gust, if there is enough of it; else each is a pop. */
function namedBursts(pieces: readonly Omit<Burst, 'kind'>[]): Burst[] {
  const groups: { pieces: Omit<Burst, 'kind'>[]; toS: number }[] = []
  for (const piece of pieces) {
    const last = groups.at(-1)
    if (last && piece.fromS - last.toS < gustJoinS) {
      last.pieces.push(piece)
      last.toS = piece.toS
    } else groups.push({ pieces: [piece], toS: piece.toS })
  }
  return groups.flatMap(({ pieces: group, toS: endS }): Burst[] => {
    const togetherS = group.reduce((sum, { fromS, toS }) => sum + toS - fromS, 0)
    if (togetherS < shortestWindS) return group.map((piece) => ({ kind: 'pop', ...piece }))
    const most = (pick: (piece: Omit<Burst, 'kind'>) => number) => Math.max(...group.map(pick))
    const levels = { levelDbfs: most(({ levelDbfs }) => levelDbfs), overDb: most(({ overDb }) => overDb) }
    return [{ kind: 'wind', fromS: group[0]!.fromS, toS: endS, ...levels }]
  })
}

/** Mean powers around each step, dB. */
function smooth(levels: Float32Array): Float32Array {
  const out = new Float32Array(levels.length)
  const ring = new Float64Array(2 * around + 1)
  for (let index = -around; index < levels.length; index++) {
    const ahead = levels[index + around]
    ring[(index + around) % ring.length] = ahead === undefined ? 0 : 10 ** (ahead / 10)
    if (index >= 0) out[index] = powerDb(ring.reduce((sum, power) => sum + power, 0) / ring.length + 1e-16)
  }
  return out
}
const highest = (levels: Float32Array, from: number, to: number): number => {
  let most = -Infinity
  for (let index = from; index <= to; index++) most = Math.max(most, levels[index]!)
  return most
}
