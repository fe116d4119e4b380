import type { ClipRange } from '../model'
import { amplitudeDb, amplitudeFromDb } from '../units'
import { highsOf, stretchFrames } from './highs'

const fewestSamples = 3
/** Quieter tops are ignored: nothing clips at -26 dBFS. */
const quietestTop = 0.05
/** Tops closer together than this form one range, s. */
const joinS = 0.05
/** Most tops kept; further ones are only counted. */
const mostTops = 20_000
const mostRanges = 500
/** From here on a top counts as full scale. */
const fullScale = amplitudeFromDb(-0.05)
/**
 * Below full scale noise can lay a few samples level by chance. A limit shows by more: at least one top this long,
 * and this many samples on its tops together.
 */
const longestAtLeast = 5
const togetherAtLeast = 10
/** Stretches that stay this many steps below every top are skipped. */
const passedUnderSteps = 8

interface Top {
  fromFrame: number
  toFrame: number
  level: number
  length: number
}

/**
 * Finds tops cut flat. A run of samples within one step of each other is a cut and not the crest of a low note
 * when the wave leaves it by a corner: a smooth crest that stays within `step` for n samples falls at most
 * step (n + 2)^2 / (n - 1)^2 at the next, a cut falls by more. And nothing goes beyond a limit: as soon as a sample
 * of the same sign does, the tops noted below it were none.
 */
export class FlatTops {
  private readonly step: number
  /** Tops at the highest level so far, of positive and of negative polarity. */
  private readonly tops: [Top[], Top[]] = [[], []]
  private readonly highest: [number, number] = [0, 0]
  private more = 0
  private frame = 0
  private level = 0
  private length = 0
  private before = 0
  private last = 0

  constructor(
    bits: number,
    private readonly rateHz: number,
  ) {
    this.step = 1.01 / 2 ** (Math.min(bits, 20) - 1)
  }

  /** @param highs of the samples, where somebody has them already */
  push(samples: Float32Array, highs = highsOf(samples)): void {
    const first = this.frame
    for (let stretch = 0, from = 0; from < samples.length; stretch++, from += stretchFrames) {
      const to = Math.min(samples.length, from + stretchFrames)
      this.frame = first + from
      if (highs[stretch]! < this.leastTop() && to - from > 1) this.pass(samples, from, to)
      else this.within(samples, from, to)
    }
    this.frame = first + samples.length
  }
  /** Samples below this cannot be part of a top, nor of the run that leads to it. */
  private leastTop(): number {
    const highest = Math.min(this.highest[0], this.highest[1], fullScale)
    return Math.max(quietestTop, highest) - passedUnderSteps * this.step
  }
  private pass(samples: Float32Array, from: number, to: number): void {
    if (this.length >= fewestSamples) this.examine(samples[from]!)
    this.level = this.last = samples[to - 1]!
    this.before = samples[to - 2]!
    this.length = 1
  }
  private within(samples: Float32Array, from: number, to: number): void {
    const { step, highest } = this
    let { level, length, before, last } = this
    const first = this.frame - from
    for (let index = from; index < to; index++) {
      const sample = samples[index]!
      const size = sample < 0 ? -sample : sample
      const side = sample < 0 ? 1 : 0
      if (size > highest[side]) this.rise(side, size)
      const change = sample - level
      if (change <= step && change >= -step) length++
      else {
        if (length >= fewestSamples) {
          this.frame = first + index
          this.level = level
          this.length = length
          this.before = before
          this.examine(sample)
        }
        before = last
        level = sample
        length = 1
      }
      last = sample
    }
    this.level = level
    this.length = length
    this.before = before
    this.last = last
  }
  private rise(side: 0 | 1, size: number): void {
    this.highest[side] = size
    const tops = this.tops[side]
    if (tops.length && tops[0]!.level < Math.min(size - 1.5 * this.step, fullScale)) tops.length = 0
  }

  /** How many crests are cut at full scale so far. Later sound cannot reduce the number. */
  get atFullScale(): number {
    return this.tops.reduce((sum, side) => sum + side.filter(({ level }) => level >= fullScale).length, 0)
  }

  /** Ranges in order of time; tops close together, of either side, are one. */
  finish(): { clipped: ClipRange[]; more: number } {
    if (this.length >= fewestSamples && Math.abs(this.level) >= 1 - this.step) this.examine(0)
    const tops = this.tops
      .flatMap((side) => (this.isLimit(side) ? side : []))
      .sort((one, other) => one.fromFrame - other.fromFrame)
    const ranges: (ClipRange & { lastFrame: number })[] = []
    for (const { fromFrame, toFrame, level, length } of tops) {
      const levelDbfs = amplitudeDb(level)
      const shape = level >= fullScale ? 'flat at full scale' : 'flat below full scale'
      const last = ranges.at(-1)
      if (last && last.shape === shape && fromFrame - last.lastFrame < joinS * this.rateHz) {
        last.toS = toFrame / this.rateHz
        last.lastFrame = toFrame
        last.samples += length
        last.levelDbfs = Math.max(last.levelDbfs, levelDbfs)
      } else
        ranges.push({
          fromS: fromFrame / this.rateHz,
          toS: toFrame / this.rateHz,
          levelDbfs,
          shape,
          samples: length,
          confidence: 1,
          lastFrame: toFrame,
        })
    }
    const clipped = ranges.slice(0, mostRanges).map(({ lastFrame: _, ...range }) => range)
    return { clipped, more: this.more + ranges.length - clipped.length }
  }

  private isLimit(tops: readonly Top[]): boolean {
    if (tops.some(({ level }) => level >= fullScale)) return true
    const together = tops.reduce((sum, { length }) => sum + length, 0)
    return together >= togetherAtLeast && tops.some(({ length }) => length >= longestAtLeast)
  }

  private examine(after: number): void {
    const level = Math.abs(this.level)
    const side = this.level < 0 ? 1 : 0
    if (level < quietestTop || level < Math.min(this.highest[side] - 1.5 * this.step, fullScale)) return
    const sign = Math.sign(this.level)
    const fallBefore = sign * (this.level - this.before)
    const fallAfter = sign * (this.level - after)
    const smooth = this.step * ((this.length + 2) / (this.length - 1)) ** 2
    if (Math.min(fallBefore, fallAfter) < smooth || Math.max(fallBefore, fallAfter) < 2 * smooth) return
    const tops = this.tops[side]
    if (tops.length === mostTops) this.more++
    else tops.push({ fromFrame: this.frame - this.length, toFrame: this.frame, level, length: this.length })
  }
}
