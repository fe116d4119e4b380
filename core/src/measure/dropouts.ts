import type { TimeRange } from '../model'
import { powerDb } from '../units'
import { LevelSeries, quantile } from './level-series'

const stepS = 0.001
/** Steps compared before a fall. */
const before = 6
const fallDb = 8
const fallFactor = 10 ** (fallDb / 10)
const shortestSteps = 2
const longestSteps = 3000
const mostCandidates = 4000
/** A dropout is this far below the softest pause, dB... */
const underFloorDb = 9
/** ...or falls and rises by this much within a millisecond, dB. */
const abruptDb = 30
const joinS = 0.03
/** A flat top changes as little as silence does, but stays at this share or more of the peak before it. */
const flatTopShare = 0.7
/** Least share of joined dropouts that is really silent. */
const leastShare = 0.5
/** Depth below the softest pause at which confidence reaches two thirds, dB. */
const sureUnderDb = 8

interface Candidate {
  from: number
  to: number
  insideDb: number
  fallDb: number
  riseDb: number
}

/**
 * Finds places where everything stops at once, noise too, as when a radio loses its signal and mutes. Looks at what changes
 * from sample to sample, so that hum and rumble which came in later hide nothing.
 */
export class DropoutMeter {
  private readonly stepFrames: number
  private readonly coarse = new LevelSeries()
  private readonly recent = new Float64Array(before)
  /** Size of the last sample of each of them. */
  private readonly sizes = new Float64Array(before)
  private candidates: Candidate[] = []
  private frames = 0
  private last = 0
  private sum = 0
  private step = 0
  private coarseSum = 0
  private from = -1
  private inside = 0
  private insideSteps = 0
  private levelBefore = 0
  private sizeBefore = 0
  private leastSize = 0

  constructor(rateHz: number) {
    this.stepFrames = Math.max(4, Math.round(stepS * rateHz))
    this.secondsAStep = this.stepFrames / rateHz
  }
  private readonly secondsAStep: number

  push(samples: Float32Array): void {
    for (let from = 0; from < samples.length;) {
      const to = Math.min(samples.length, from + this.stepFrames - this.frames)
      this.sum += this.changes(samples, from, to)
      this.frames += to - from
      from = to
      if (this.frames < this.stepFrames) continue
      this.next(this.sum / this.stepFrames)
      this.sum = this.frames = 0
    }
  }
  /** Sum of the squared differences between samples. */
  private changes(samples: Float32Array, from: number, to: number): number {
    let { last } = this
    let sum = 0
    for (let index = from; index < to; index++) {
      const sample = samples[index]!
      const change = sample - last
      last = sample
      sum += change * change
    }
    this.last = last
    return sum
  }

  private next(power: number): void {
    const { recent } = this
    const at = this.step++
    if (this.from >= 0) this.within(power, at)
    else if (at >= before) {
      let sum = 0
      for (const each of recent) sum += each
      const usual = sum / before
      if (usual > 1e-14 && power < usual / fallFactor) {
        this.levelBefore = usual
        this.sizeBefore = Math.max(...this.sizes)
        this.begin(power, at)
      }
    }
    if (this.from < 0) {
      recent[at % before] = power
      this.sizes[at % before] = Math.abs(this.last)
    } else this.leastSize = Math.min(this.leastSize, Math.abs(this.last))
    this.coarseSum += power
    if (this.step % 10 === 0) {
      this.coarse.add(this.coarseSum / 10)
      this.coarseSum = 0
    }
  }

  private within(power: number, at: number): void {
    const mean = this.inside / this.insideSteps
    if (power < mean / fallFactor) {
      // it falls further: the level before was not a dropout, or only the beginning of one
      if (this.insideSteps > 1) this.levelBefore = mean
      this.begin(power, this.insideSteps > 1 ? at : this.from)
    } else if (power <= Math.max(mean, 1e-16) * fallFactor && this.insideSteps < longestSteps) {
      this.inside += power
      this.insideSteps++
    } else this.end(power, at)
  }
  private begin(power: number, at: number): void {
    this.from = at
    this.inside = power
    this.insideSteps = 1
    this.leastSize = Infinity
  }
  private end(power: number, at: number): void {
    const insideDb = powerDb(this.inside / this.insideSteps)
    const isFlatTop = this.leastSize > flatTopShare * this.sizeBefore
    if (this.insideSteps >= shortestSteps && this.insideSteps < longestSteps && !isFlatTop)
      this.keep({
        from: this.from,
        to: at,
        insideDb,
        fallDb: powerDb(this.levelBefore) - insideDb,
        riseDb: powerDb(power) - insideDb,
      })
    this.from = -1
    this.recent.fill(power)
  }
  /** Of very many candidates the softest half is kept: a dropout is softer than pauses in speech. */
  private keep(candidate: Candidate): void {
    if (this.candidates.length === mostCandidates) {
      const middle = quantile(
        this.candidates.map(({ insideDb }) => insideDb),
        0.5,
      )
      this.candidates = this.candidates.filter(({ insideDb }) => insideDb <= middle)
    }
    this.candidates.push(candidate)
  }

  finish(): { ranges: TimeRange[]; confidence: number } {
    const levels = this.coarse.levels()
    /** Level of the softest pauses, without what some candidates cover. */
    const floorWithout = (covering: readonly Candidate[]): number => {
      const isInside = new Uint8Array(levels.length)
      for (const { from, to } of covering) isInside.fill(1, Math.floor(from / 10), Math.ceil(to / 10))
      const outside = new Float32Array(levels.length)
      let count = 0
      for (let index = 0; index < levels.length; index++)
        if (!isInside[index]) outside[count++] = levels[index]!
      return quantile(outside.subarray(0, count), 0.03)
    }
    let floorDb = floorWithout(this.candidates)
    const stops = ({ insideDb, fallDb: fall, riseDb }: Candidate): boolean =>
      insideDb < floorDb - underFloorDb || (fall > abruptDb && riseDb > abruptDb && insideDb < floorDb - 3)
    let real = this.candidates.filter(stops)
    // a compressor lowers the noise too while somebody speaks: moments as soft as others are no dropouts
    floorDb = floorWithout(real)
    real = real.filter(stops)
    const pieces: { from: number; to: number; steps: number }[] = []
    for (const { from, to } of real) {
      const last = pieces.at(-1)
      if (last && (from - last.to) * this.secondsAStep < joinS) {
        last.to = to
        last.steps += to - from
      } else pieces.push({ from, to, steps: to - from })
    }
    // soft moments within each cycle of a deep tone are not dropouts
    const ranges = pieces.flatMap(({ from, to, steps }) =>
      steps > leastShare * (to - from)
        ? [{ fromS: from * this.secondsAStep, toS: to * this.secondsAStep }]
        : [],
    )
    const deepestDb = Math.max(...real.map(({ insideDb }) => floorDb - insideDb))
    return { ranges, confidence: ranges.length ? 1 - Math.exp(-deepestDb / sureUnderDb) : 0 }
  }
}
