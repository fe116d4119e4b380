/** How fast a duck goes down, how long it stays there after the last word, and how fast it comes up, seconds. */
const fallsS = 0.002
const holdS = 0.3
const risesS = 0.2
/** Level above which a sound counts as speaking: far below any quiet word. */
const audible = 1e-6

/**
 * Ducking on samples: down when somebody else speaks, before the first syllable has come to its peak and not so fast that
 * it clicks; up again a moment after.
 */
export class Duck {
  private readonly down: number
  private readonly fall: number
  private readonly rise: number
  private readonly holdFrames: number
  private gain = 1
  private held = 0

  constructor(depthDb: number, rateHz: number) {
    this.down = 10 ** (-depthDb / 20)
    this.fall = 1 - Math.exp(-1 / (fallsS * rateHz))
    this.rise = 1 - Math.exp(-1 / (risesS * rateHz))
    this.holdFrames = holdS * rateHz
  }

  /** @param others the voices that it ducks under */
  apply(block: Float32Array, others: readonly Float32Array[]): void {
    for (let index = 0; index < block.length; index++) {
      if (others.some((sound) => Math.abs(sound[index]!) > audible)) {
        this.gain += this.fall * (this.down - this.gain)
        this.held = this.holdFrames
      } else if (this.held > 0) this.held--
      else this.gain += this.rise * (1 - this.gain)
      block[index]! *= this.gain
    }
  }
}
