/** How long a duck stays down after the last word, and how fast it comes up, seconds. */
const holdS = 0.3
const risesS = 0.2
/** A sound that speaks: far under any quiet word. */
const audible = 1e-6

/**
 * Ducking on samples: down at once when somebody else speaks, up again a moment after. It looks ahead, as mixers do
 * that duck before the first word.
 */
export class Duck {
  private readonly down: number
  private readonly rise: number
  private readonly holdFrames: number
  private gain = 1
  private held = 0

  constructor(depthDb: number, rateHz: number) {
    this.down = 10 ** (-depthDb / 20)
    this.rise = 1 - Math.exp(-1 / (risesS * rateHz))
    this.holdFrames = holdS * rateHz
  }

  /** @param others what those say whose voice it ducks under */
  apply(block: Float32Array, others: readonly Float32Array[]): void {
    for (let index = 0; index < block.length; index++) {
      if (others.some((sound) => Math.abs(sound[index]!) > audible)) {
        this.gain = this.down
        this.held = this.holdFrames
      } else if (this.held > 0) this.held--
      else this.gain += this.rise * (1 - this.gain)
      block[index]! *= this.gain
    }
  }
}
