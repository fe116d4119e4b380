import { highBetween, highsOf } from './highs'

/** An excerpt of a clip, and where it begins. */
export interface Excerpt {
  frame: number
  channels: Float32Array[]
  /** By this it was chosen. */
  size: number
}

/** Keeps the loudest and the quietest stretches of a clip, all channels of each, so that costly looks need no second reading. */
export class ExcerptKeeper {
  private readonly held: Float32Array[]
  private filled = 0
  private frame = 0
  private size = 0
  /** The loudest first. */
  readonly loudest: Excerpt[] = []
  /** The quietest first, without digital silence. */
  readonly quietest: Excerpt[] = []

  constructor(
    channels: number,
    private readonly length = 8192,
    private readonly most = 16,
  ) {
    this.held = Array.from({ length: channels }, () => new Float32Array(length))
  }

  /** @param highs of each channel, where somebody has them already */
  push(block: readonly Float32Array[], highs: readonly Float32Array[] = block.map(highsOf)): void {
    const total = block[0]?.length ?? 0
    for (let from = 0; from < total;) {
      const count = Math.min(total - from, this.length - this.filled)
      this.held.forEach((held, channel) => {
        held.set(block[channel]!.subarray(from, from + count), this.filled)
        this.size = Math.max(this.size, highBetween(block[channel]!, highs[channel]!, from, from + count))
      })
      this.filled += count
      from += count
      if (this.filled === this.length) this.close()
    }
  }
  private close(): void {
    const { size } = this
    this.size = 0
    this.keep(this.loudest, size, (one, other) => one > other)
    if (size > 0) this.keep(this.quietest, size, (one, other) => one < other)
    this.frame += this.filled
    this.filled = 0
  }
  private keep(kept: Excerpt[], size: number, isBefore: (one: number, other: number) => boolean): void {
    const last = kept.at(-1)
    const isFull = kept.length === this.most
    if (last && isFull && !isBefore(size, last.size)) return
    // a loop that is heard again says nothing new, and twenty times the same wave is no proof of anything
    if (kept.some((each) => each.size === size && isSame(each.channels, this.held, size))) return
    if (isFull) kept.pop()
    const at = kept.findIndex((each) => isBefore(size, each.size))
    const channels = this.held.map((held) => held.slice())
    kept.splice(at < 0 ? kept.length : at, 0, { frame: this.frame, channels, size })
  }
}

/** Samples around the highest by which a repeated excerpt is recognised. */
const around = 32

/** Whether two excerpts have the same wave around their highest sample. */
function isSame(one: readonly Float32Array[], other: readonly Float32Array[], size: number): boolean {
  return one.some((samples, channel) => {
    const [mine, theirs] = [samples, other[channel]!].map((each) =>
      each.findIndex((x) => Math.abs(x) === size),
    )
    if (mine! < 0 || theirs! < 0) return false
    for (let by = -around; by <= around; by++) {
      const [here, there] = [samples[mine! + by], other[channel]![theirs! + by]]
      if (here !== undefined && there !== undefined && here !== there) return false
    }
    return true
  })
}
