/** An excerpt of a clip, and where it begins. */
export interface Excerpt {
  frame: number
  channels: Float32Array[]
  /** By this it was chosen. */
  size: number
}

/** Keeps the loudest or the quietest stretches of a clip, all channels of each, so that costly looks need no second reading. */
export class Excerpts {
  private readonly held: Float32Array[]
  private filled = 0
  private frame = 0
  readonly excerpts: Excerpt[] = []

  constructor(
    channels: number,
    private readonly kept: 'loudest' | 'quietest' = 'loudest',
    private readonly length = 8192,
    private readonly most = 16,
  ) {
    this.held = Array.from({ length: channels }, () => new Float32Array(length))
  }

  push(block: readonly Float32Array[]): void {
    const total = block[0]?.length ?? 0
    for (let from = 0; from < total;) {
      const count = Math.min(total - from, this.length - this.filled)
      this.held.forEach((held, channel) =>
        held.set(block[channel]!.subarray(from, from + count), this.filled),
      )
      this.filled += count
      from += count
      if (this.filled === this.length) this.close()
    }
  }
  private close(): void {
    let size = 0
    for (const held of this.held)
      for (const sample of held) if (Math.abs(sample) > size) size = Math.abs(sample)
    const rank = this.kept === 'loudest' ? size : -size
    const rankOf = (excerpt: Excerpt) => (this.kept === 'loudest' ? excerpt.size : -excerpt.size)
    // where nothing is there is nothing to look at
    const isWanted = this.excerpts.length < this.most || rank > rankOf(this.excerpts.at(-1)!)
    if (isWanted && size > 0) {
      if (this.excerpts.length === this.most) this.excerpts.pop()
      const excerpt = { frame: this.frame, channels: this.held.map((held) => held.slice()), size }
      const at = this.excerpts.findIndex((each) => rankOf(each) < rank)
      this.excerpts.splice(at < 0 ? this.excerpts.length : at, 0, excerpt)
    }
    this.frame += this.filled
    this.filled = 0
  }
}
