/** How much larger a jump is than what surrounds it. */
const overBefore = 14
const overAfter = 10
const quietest = 10 ** (-66 / 20)
/** After this it must be over. */
const overAfterS = 0.0008
const lookAfterS = 0.004
/** Clicks closer together than this are something that crackles or buzzes, and no clicks. */
const aloneS = 0.02
const mostClicks = 5000

export interface Click {
  atS: number
  /** Size of the jump, full scale 1. */
  size: number
}

/** Finds single jumps of a wave: a plug, a spark, a lost sample. What rings on after it, as a blow does, is none. */
export class ClickMeter {
  private readonly found: Click[] = []
  private readonly slow: number
  private readonly overFrames: number
  private readonly lookFrames: number
  private one = 0
  private two = 0
  private mean = 0
  private frame = 0
  private candidate = 0
  private candidateFrame = -1
  private after = 0
  private afterCount = 0

  constructor(private readonly rateHz: number) {
    this.slow = 1 - Math.exp(-1 / (0.002 * rateHz))
    this.overFrames = Math.ceil(overAfterS * rateHz)
    this.lookFrames = Math.ceil(lookAfterS * rateHz)
  }

  push(samples: Float32Array): void {
    const { slow } = this
    for (let index = 0; index < samples.length; index++) {
      const sample = samples[index]!
      const jump = Math.abs(sample - 2 * this.one + this.two)
      this.two = this.one
      this.one = sample
      if (this.candidateFrame >= 0) this.follow(jump)
      else if (jump > quietest && jump > overBefore * this.mean && this.frame > this.lookFrames) {
        this.candidate = jump
        this.candidateFrame = this.frame
        this.after = this.afterCount = 0
      }
      if (this.candidateFrame < 0 || this.frame - this.candidateFrame > this.overFrames)
        this.mean += slow * (jump - this.mean)
      this.frame++
    }
  }

  private follow(jump: number): void {
    const since = this.frame - this.candidateFrame
    if (since <= this.overFrames) {
      if (jump > this.candidate) this.candidate = jump
      return
    }
    this.after += jump
    this.afterCount++
    if (since < this.lookFrames) return
    if (this.after / this.afterCount < this.candidate / overAfter && this.found.length < mostClicks)
      this.found.push({ atS: this.candidateFrame / this.rateHz, size: this.candidate / 2 })
    this.candidateFrame = -1
  }

  finish(): Click[] {
    return this.found.filter(({ atS }, index) => {
      const before = this.found[index - 1]
      const after = this.found[index + 1]
      return !(before && atS - before.atS < aloneS) && !(after && after.atS - atS < aloneS)
    })
  }
}
