/** Length of the steps whose largest jumps are compared with those around them, s. */
const stepS = 0.0005
const aroundS = 0.012
/** Longest click, in steps. */
const lastsSteps = 1
/** Least ratio of a click to any jump around it: speech jumps once in every pitch period. */
const overOthers = 3.5
const quietest = 10 ** (-66 / 20)
const mostClicks = 5000

export interface Click {
  atS: number
  /** Size of the jump, full scale 1. */
  size: number
  /** How many times larger than any jump around it. */
  ratio: number
}

/** Finds single jumps of a wave: a plug, a spark, a lost sample. Something that rings on, such as a blow, is not a click. */
export class ClickMeter {
  private readonly found: Click[] = []
  private readonly stepFrames: number
  private readonly reach: number
  /** The largest jumps of the last steps, one after another; moved to the front when they reach the end. */
  private readonly jumps: Float32Array
  private held = 0
  private one = 0
  private two = 0
  private most = 0
  private frames = 0
  private step = 0

  constructor(private readonly rateHz: number) {
    this.stepFrames = Math.max(4, Math.round(stepS * rateHz))
    this.reach = Math.round((aroundS * rateHz) / this.stepFrames)
    this.jumps = new Float32Array(16 * (2 * this.reach + 1))
  }

  push(samples: Float32Array): void {
    for (let from = 0; from < samples.length;) {
      const to = Math.min(samples.length, from + this.stepFrames - this.frames)
      this.within(samples, from, to)
      this.frames += to - from
      from = to
      if (this.frames < this.stepFrames) continue
      this.keep(this.most)
      this.most = this.frames = 0
      this.examine()
    }
  }
  /** The largest jump of a stretch: by how much a sample misses the straight line through the two before it. */
  private within(samples: Float32Array, from: number, to: number): void {
    let { one, two, most } = this
    for (let index = from; index < to; index++) {
      const sample = samples[index]!
      const size = Math.abs(sample - 2 * one + two)
      two = one
      one = sample
      if (size > most) most = size
    }
    this.one = one
    this.two = two
    this.most = most
  }

  private keep(jump: number): void {
    const { jumps, reach } = this
    if (this.held === jumps.length) {
      jumps.copyWithin(0, jumps.length - 2 * reach)
      this.held = 2 * reach
    }
    jumps[this.held++] = jump
    this.step++
  }

  /** Examines the step that has as many after it as can matter. */
  private examine(): void {
    const { jumps, reach } = this
    const middle = this.held - 1 - reach
    if (middle < reach) return
    const jump = jumps[middle]!
    if (jump < quietest) return
    const limit = jump / overOthers
    let others = 0
    for (let by = lastsSteps + 1; by <= reach; by++) {
      const after = jumps[middle + by]!
      const before = jumps[middle - by]!
      if (after > limit || before > limit) return
      if (after > others) others = after
      if (before > others) others = before
    }
    // of two steps that share a click the larger one represents it
    if (jumps[middle + 1]! >= jump || jumps[middle - 1]! > jump) return
    if (this.found.length < mostClicks)
      this.found.push({
        atS: ((this.step - 0.5 - reach) * this.stepFrames) / this.rateHz,
        size: jump / 2,
        ratio: jump / Math.max(others, 1e-9),
      })
  }

  finish(): Click[] {
    return this.found
  }
}
