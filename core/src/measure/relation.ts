import { powerDb } from '../units'
import type { Excerpt } from './excerpts'
import { correlationOf, crossSpectrum } from './fourier'

/** How two channels relate. */
export interface Relation {
  kind: 'equal' | 'unequal' | 'opposite' | 'delayed' | 'one silent'
  /** How alike they are at best, -1 to 1. */
  likeness: number
  /** The second after the first, in frames and in ms; negative: before it. */
  delayFrames: number
  delayMs: number
  /** Level of the second over the first, dB. */
  differenceDb: number
}

const longestS = 0.06
const silentDb = -28

/** Compares two channels in the loudest excerpts of a clip. Undefined where they are two sounds, as stereo has. */
export function relationOf(
  excerpts: readonly Excerpt[],
  first: number,
  second: number,
  rateHz: number,
): Relation | undefined {
  const energies = [first, second].map((channel) =>
    excerpts.reduce((sum, { channels }) => sum + channels[channel]!.reduce((all, x) => all + x * x, 0), 0),
  ) as [number, number]
  if (Math.max(...energies) === 0) return undefined
  const differenceDb = powerDb(Math.max(energies[1], 1e-20) / Math.max(energies[0], 1e-20))
  const { at, value, zero, opposite } = likeness(
    excerpts,
    first,
    second,
    energies,
    Math.round(longestS * rateHz),
  )
  const found = { likeness: value, delayFrames: at, delayMs: (1000 * at) / rateHz, differenceDb }
  const delayS = Math.abs(at) / rateHz
  if (Math.abs(differenceDb) > -silentDb && Math.abs(value) < 0.3) return { kind: 'one silent', ...found }
  if (value < 0 && -value > 0.5 && -value > 1.15 * opposite && delayS < 0.001)
    return { kind: 'opposite', ...found }
  if (zero > 0.995 && delayS * rateHz < 0.5)
    return { kind: Math.abs(differenceDb) < 0.3 ? 'equal' : 'unequal', ...found }
  if (value > 0.6 && delayS > 0.0002) return { kind: 'delayed', ...found }
  if (value > 0.7 && Math.abs(differenceDb) > 6) return { kind: 'unequal', ...found }
  return undefined
}

/** The best likeness at any delay, the one at none, and the best of the other sign. */
function likeness(
  excerpts: readonly Excerpt[],
  first: number,
  second: number,
  [one, two]: [number, number],
  longest: number,
): { at: number; value: number; zero: number; opposite: number } {
  const length = excerpts[0]!.channels[first]!.length
  const size = 2 * length
  const sum = { re: new Float64Array(size), im: new Float64Array(size) }
  for (const { channels } of excerpts) {
    const cross = crossSpectrum(channels[first]!, channels[second]!, size)
    for (let k = 0; k < size; k++) {
      sum.re[k]! += cross.re[k]!
      sum.im[k]! += cross.im[k]!
    }
  }
  const products = correlationOf(sum)
  const scale = 1 / Math.sqrt(Math.max(one * two, 1e-30))
  const at = (delay: number) => products(-delay) * scale
  let best = 0
  for (let delay = -longest; delay <= longest; delay++)
    if (Math.abs(at(delay)) > Math.abs(at(best))) best = delay
  const sign = Math.sign(at(best))
  let opposite = 0
  for (let delay = -longest; delay <= longest; delay++) opposite = Math.max(opposite, -sign * at(delay))
  const [left, middle, right] = [at(best - 1), at(best), at(best + 1)]
  const curve = left - 2 * middle + right
  const part = Math.abs(curve) > 1e-12 ? (0.5 * (left - right)) / curve : 0
  return { at: best + part, value: middle, zero: at(0), opposite }
}
