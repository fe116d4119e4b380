import type { ClipRange } from '../model'
import { amplitudeDb } from '../units'

const fewestSamples = 3
/** Quieter tops are left alone: nothing clips at -26 dBFS. */
const quietestTop = 0.05
/** Tops nearer together than this are one range. */
const joinS = 0.05
const mostRanges = 500
/** From here on a top counts as full scale, dBFS. */
const fullScaleDbfs = -0.05
/** A top further under the highest peak than this was not cut by the same limit. */
const underPeakDb = 0.5

/**
 * Finds tops cut flat. A run of samples within one step of each other is a cut and not the crest of a low note
 * when the wave leaves it by a corner: a smooth crest that stays within `step` for n samples falls at most
 * step (n + 2)^2 / (n - 1)^2 at the next, a cut falls by more.
 */
export class FlatTops {
  private readonly step: number
  private readonly joinFrames: number
  private readonly ranges: (ClipRange & { lastFrame: number })[] = []
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
    this.joinFrames = joinS * rateHz
  }

  next(sample: number): void {
    if (Math.abs(sample - this.level) <= this.step) this.length++
    else {
      if (this.length >= fewestSamples) this.examine(sample)
      this.before = this.last
      this.level = sample
      this.length = 1
    }
    this.last = sample
    this.frame++
  }

  /** Ranges in order of time, the peak of the whole known. */
  finish(peak: number): { clipped: ClipRange[]; more: number } {
    if (this.length >= fewestSamples && Math.abs(this.level) >= 1 - this.step) this.examine(0)
    const lowestDbfs = amplitudeDb(peak) - underPeakDb
    const kept = this.ranges.filter(({ levelDbfs }) => levelDbfs >= lowestDbfs)
    return { clipped: kept.map(({ lastFrame: _, ...range }) => range), more: this.more }
  }

  private examine(after: number): void {
    const size = Math.abs(this.level)
    if (size < quietestTop) return
    const sign = Math.sign(this.level)
    const fallBefore = sign * (this.level - this.before)
    const fallAfter = sign * (this.level - after)
    const smooth = this.step * ((this.length + 2) / (this.length - 1)) ** 2
    if (Math.min(fallBefore, fallAfter) < smooth || Math.max(fallBefore, fallAfter) < 2 * smooth) return
    this.note(amplitudeDb(size))
  }

  private note(levelDbfs: number): void {
    const shape = levelDbfs >= fullScaleDbfs ? 'flat at full scale' : 'flat below full scale'
    const fromFrame = this.frame - this.length
    const last = this.ranges.at(-1)
    if (last && last.shape === shape && fromFrame - last.lastFrame < this.joinFrames) {
      last.toS = this.frame / this.rateHz
      last.lastFrame = this.frame
      last.samples += this.length
      last.levelDbfs = Math.max(last.levelDbfs, levelDbfs)
    } else if (this.ranges.length === mostRanges) this.more++
    else
      this.ranges.push({
        fromS: fromFrame / this.rateHz,
        toS: this.frame / this.rateHz,
        levelDbfs,
        shape,
        samples: this.length,
        lastFrame: this.frame,
      })
  }
}
