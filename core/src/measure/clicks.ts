import { highestInSteps } from './highs'

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
  private readonly largest: Float32Array
  private held = 0
  /** Space for the jumps of a block. */
  private missed = new Float32Array(0)
  private one = 0
  private two = 0
  private most = 0
  private frames = 0
  private step = 0

  constructor(private readonly rateHz: number) {
    this.stepFrames = Math.max(4, Math.round(stepS * rateHz))
    this.reach = Math.round((aroundS * rateHz) / this.stepFrames)
    this.largest = new Float32Array(16 * (2 * this.reach + 1))
  }

  push(samples: Float32Array): void {
    const jumps = this.jumpsOf(samples)
    // the rest of a step that began in the block before
    const from = Math.min(jumps.length, this.frames && this.stepFrames - this.frames)
    this.add(jumps.subarray(0, from))
    const steps = Math.floor((jumps.length - from) / this.stepFrames)
    const whole = from + steps * this.stepFrames
    const highest = new Float32Array(steps)
    highestInSteps(jumps.subarray(from, whole), this.stepFrames, highest)
    for (const jump of highest) this.close(jump)
    this.add(jumps.subarray(whole))
  }
  /** By how much each sample misses the straight line through the two before it. */
  private jumpsOf(samples: Float32Array): Float32Array {
    if (this.missed.length < samples.length) this.missed = new Float32Array(samples.length)
    const { missed } = this
    let { one, two } = this
    for (let index = 0; index < samples.length; index++) {
      const sample = samples[index]!
      missed[index] = sample - 2 * one + two
      two = one
      one = sample
    }
    this.one = one
    this.two = two
    return missed.subarray(0, samples.length)
  }
  /** Part of a step, which ends with it or goes on in the next block. */
  private add(jumps: Float32Array): void {
    for (const jump of jumps) this.most = Math.max(this.most, Math.abs(jump))
    this.frames += jumps.length
    if (this.frames < this.stepFrames) return
    this.close(this.most)
    this.most = this.frames = 0
  }
  private close(jump: number): void {
    this.keep(jump)
    this.examine()
  }
  private keep(jump: number): void {
    const { largest, reach } = this
    if (this.held === largest.length) {
      largest.copyWithin(0, largest.length - 2 * reach)
      this.held = 2 * reach
    }
    largest[this.held++] = jump
    this.step++
  }

  /** Examines the step that has as many after it as can matter. */
  private examine(): void {
    const { largest, reach } = this
    const middle = this.held - 1 - reach
    if (middle < reach) return
    const jump = largest[middle]!
    if (jump < quietest) return
    const limit = jump / overOthers
    let others = 0
    for (let by = lastsSteps + 1; by <= reach; by++) {
      const after = largest[middle + by]!
      const before = largest[middle - by]!
      if (after > limit || before > limit) return
      if (after > others) others = after
      if (before > others) others = before
    }
    // of two steps that share a click the larger one represents it
    if (largest[middle + 1]! >= jump || largest[middle - 1]! > jump) return
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
