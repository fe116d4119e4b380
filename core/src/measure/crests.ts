import type { ClipRange } from '../model'
import { amplitudeDb, amplitudeFromDb } from '../units'
import { highsOf, stretchFrames } from './highs'

/** Width of the level bins that half-waves are counted in, dB, and the lowest level. */
const binDb = 0.25
const lowestDb = -60
const bins = 72 / binDb
/** Shortest half-wave at half its height, s: a shorter one has no shape. */
const shortestS = 0.0001
const widest = 8192
/** Within this time only the highest half-wave of each polarity counts, s. */
const periodS = 0.004
/** Half-waves quieter than this are ignored, full scale 1. */
const quietest = 0.003
/** Dwell of a half-wave: its time above this share of its height, divided by its time above half of it. */
const nearTop = 0.93
const half = 0.5
/** Tops within this of the highest are kept with their places, dB. */
const keptDb = 4
const mostTops = 20_000
const mostKnown = 20_000

/** Half-waves within this of the highest are examined, dB. */
export const lookedAtDb = 15

// computed once: they are asked for at every stretch of samples
const lookedAtShare = amplitudeFromDb(-lookedAtDb)
const keptShare = amplitudeFromDb(-keptDb)

export interface Top {
  frame: number
  width: number
  level: number
  dwell: number
  isNegative: boolean
}

/** Half-waves of a range of levels: how many, and how long they dwell at their tops (0.36 for a sine, 1 for a square). */
export interface Crests {
  count: number
  dwell: number
  spread: number
}

/** Splits sound into half-waves and notes of each how high it is and how long it dwells at its top. */
export class CrestCounter {
  private readonly lobe = new Float32Array(widest)
  private length = 0
  private sign = 0
  private frame = 0
  private high = 0
  private readonly counts = new Float64Array(bins)
  private readonly sums = new Float64Array(bins)
  private readonly squares = new Float64Array(bins)
  private kept: Top[] = []
  private readonly known = new Set<number>()
  private highest = 0
  private readonly narrowest: number
  private readonly period: number
  private readonly pending: [Top?, Top?] = []

  constructor(rateHz: number) {
    this.narrowest = Math.max(4, shortestS * rateHz)
    this.period = periodS * rateHz
  }

  /** @param highs of the samples, where somebody has them already */
  push(samples: Float32Array, highs = highsOf(samples)): void {
    let wasPassed = false
    for (let stretch = 0, from = 0; from < samples.length; stretch++, from += stretchFrames) {
      const to = Math.min(samples.length, from + stretchFrames)
      // a half-wave may have begun in the block before, or end in the next
      const isInside = from > 0 && to < samples.length
      const least = this.least()
      if (isInside && this.high < least && highs[stretch]! < least) wasPassed = true
      else {
        if (wasPassed) this.beginAt(samples, from)
        this.within(samples, from, to)
        wasPassed = false
      }
    }
    this.frame += samples.length
  }
  /** Lower half-waves count for nothing, now or later. */
  private least(): number {
    return Math.max(quietest, this.highest * lookedAtShare)
  }
  /** Resumes at the half-wave that a sample belongs to, after a skipped stretch. */
  private beginAt(samples: Float32Array, at: number): void {
    const isNegative = samples[at]! < 0
    let from = at
    while (from > 0 && at - from < widest && samples[from - 1]! < 0 === isNegative) from--
    this.sign = isNegative ? -1 : 1
    this.length = at - from
    this.high = 0
    for (let index = from; index < at; index++) {
      const size = this.sign * samples[index]!
      this.lobe[index - from] = size
      if (size > this.high) this.high = size
    }
  }
  private within(samples: Float32Array, from: number, to: number): void {
    const { lobe } = this
    let { sign, length, high } = this
    for (let index = from; index < to; index++) {
      const sample = samples[index]!
      if (sample < 0 === sign > 0 || sign === 0) {
        if (high >= quietest) {
          this.sign = sign
          this.close(length, high, this.frame + index)
        }
        sign = sample < 0 ? -1 : 1
        length = high = 0
      }
      const size = sign * sample
      if (length < widest) lobe[length++] = size
      if (size > high) high = size
    }
    this.sign = sign
    this.length = length
    this.high = high
  }

  /** A half-wave has ended. */
  private close(length: number, high: number, frame: number): void {
    const { lobe } = this
    if (length < this.narrowest || length === widest || high < this.least()) return
    let near = 0
    let above = 0
    let at = 0
    let area = 0
    const [nearLevel, halfLevel] = [nearTop * high, half * high]
    for (let index = 0; index < length; index++) {
      const size = lobe[index]!
      area += size
      if (size < halfLevel) continue
      above++
      if (size >= nearLevel) near++
      if (size === high) at = index
    }
    if (above < this.narrowest || this.isAgain(high, area)) return
    const dwell = near / above
    const top = { frame: frame - length + at, width: above, level: high, dwell, isNegative: this.sign < 0 }
    this.compete(top)
    if (high > this.highest) {
      this.highest = high
      const limit = high * keptShare
      if (this.kept.length && this.kept[0]!.level < limit)
        this.kept = this.kept.filter(({ level }) => level >= limit)
    }
    if (high < this.highest * keptShare) return
    // of very many every other one will do: places near each other are one range
    if (this.kept.length === mostTops) this.kept = this.kept.filter((_, index) => index % 2 === 0)
    this.kept.push(top)
  }

  /** The same half-wave to the last bit is a loop that is heard again, and says nothing new. */
  private isAgain(high: number, area: number): boolean {
    const mark = this.sign * (1e6 * high + area)
    if (this.known.has(mark)) return true
    if (this.known.size === mostKnown) this.known.clear()
    this.known.add(mark)
    return false
  }

  /** Only the highest of each side within a pitch period or so counts: like is compared with like. */
  private compete(top: Top): void {
    const side = this.sign < 0 ? 1 : 0
    const pending = this.pending[side]
    if (pending && top.frame - pending.frame < this.period && top.level <= pending.level) return
    if (pending && top.frame - pending.frame >= this.period) this.count(pending)
    this.pending[side] = top
  }
  private count({ level, dwell }: Top): void {
    const bin = binOf(amplitudeDb(level))
    this.counts[bin]!++
    this.sums[bin]! += dwell
    this.squares[bin]! += dwell * dwell
  }

  /** Level of the highest crest, dBFS; -Infinity if there is none. */
  get highestDb(): number {
    return amplitudeDb(this.highest)
  }

  /** Crests between two distances below the highest, dB. */
  under(fromDb: number, toDb: number): Crests {
    const top = this.highestDb
    let [count, sum, square] = [0, 0, 0]
    for (let bin = Math.max(0, binOf(top - toDb) + 1); bin <= binOf(top - fromDb); bin++) {
      count += this.counts[bin]!
      sum += this.sums[bin]!
      square += this.squares[bin]!
    }
    const dwell = sum / Math.max(1, count)
    return { count, dwell, spread: Math.sqrt(Math.max(0, square / Math.max(1, count) - dwell * dwell)) }
  }

  /** Tops within `underDb` of the highest. */
  tops(underDb: number): Top[] {
    const limit = this.highest * amplitudeFromDb(-underDb)
    return this.kept.filter(({ level }) => level >= limit)
  }
}

const binOf = (db: number): number => Math.min(bins - 1, Math.max(0, Math.floor((db - lowestDb) / binDb)))

const joinS = 0.05
const mostRanges = 500

/** Tops as ranges in order of time; tops close together form one range. */
export function rangesOf(
  tops: readonly Top[],
  shape: ClipRange['shape'],
  rateHz: number,
  confidence: number,
): { clipped: ClipRange[]; more: number } {
  const ranges: (ClipRange & { lastFrame: number })[] = []
  for (const { frame, width, level } of [...tops].sort((one, other) => one.frame - other.frame)) {
    const last = ranges.at(-1)
    const samples = Math.max(1, Math.round(width / 2))
    if (last && frame - last.lastFrame < joinS * rateHz) {
      last.toS = (frame + width / 2) / rateHz
      last.lastFrame = frame
      last.samples += samples
      last.levelDbfs = Math.max(last.levelDbfs, amplitudeDb(level))
    } else
      ranges.push({
        fromS: Math.max(0, frame - width / 2) / rateHz,
        toS: (frame + width / 2) / rateHz,
        levelDbfs: amplitudeDb(level),
        shape,
        samples,
        confidence,
        lastFrame: frame,
      })
  }
  const clipped = ranges.slice(0, mostRanges).map(({ lastFrame: _, ...range }) => range)
  return { clipped, more: ranges.length - clipped.length }
}
