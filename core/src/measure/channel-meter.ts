import type { ChannelMeasurement } from '../model'
import { amplitudeDb, powerDb, sineCrestDb } from '../units'
import { AFilter } from './a-filter'
import { FlatTops } from './flat-tops'
import { highsOf } from './highs'
import { LevelHistogram } from './level-histogram'
import { coarser, LevelSeries } from './level-series'
import { TruePeak } from './true-peak'

const stepS = 0.01
/** Steps in a block, of which the levels of speech and pauses are taken. */
const stepsInBlock = 10
/** Samples kept before and after the highest peak. */
const reach = 64
const mostSlices = 600

/** Measures one channel as its samples go by; needs the same memory for a minute and for two hours. */
export class ChannelMeter {
  private readonly filter: AFilter
  private readonly tops: FlatTops
  private readonly between: TruePeak
  private readonly blocks = new LevelHistogram()
  private readonly stepFrames: number
  private readonly steps = new LevelSeries()
  private readonly sliceFrames: number
  private readonly envelope: [number, number][] = []
  private recent = new Float32Array(0)
  private worstTo = -1
  private worst: number[] = []
  private frame = 0
  private peak = 0
  private peakFrame = -1
  private energy = 0
  private weighted = 0
  private inStep = 0
  private block = 0
  private low = 0
  private high = 0

  /** @param frames length that the file promises, for the slices of the envelope */
  constructor(
    private readonly rateHz: number,
    bits: number,
    frames: number,
  ) {
    this.filter = new AFilter(rateHz)
    this.tops = new FlatTops(bits, rateHz)
    this.between = new TruePeak(rateHz)
    this.stepFrames = Math.round(stepS * rateHz)
    this.sliceFrames = Math.max(1, Math.ceil(frames / mostSlices))
  }

  /** @param highs of the samples, where somebody has them already */
  push(samples: Float32Array, highs = highsOf(samples)): void {
    this.between.push(samples, highs)
    this.tops.push(samples, highs)
    this.shape(samples)
    for (let from = 0; from < samples.length;) {
      const to = Math.min(samples.length, from + this.stepFrames - this.inStep)
      this.weighted += this.filter.power(samples, from, to)
      this.inStep += to - from
      from = to
      if (this.inStep === this.stepFrames) this.closeStep()
    }
  }
  private closeStep(): void {
    const power = this.weighted / this.stepFrames
    this.steps.add(power)
    this.block += power
    this.weighted = this.inStep = 0
    if (this.steps.length % stepsInBlock) return
    this.blocks.add(this.block / stepsInBlock)
    this.block = 0
  }

  /** A-weighted levels in steps of some 10 ms, dB of the mean square. */
  levels(): { stepS: number; weighted: Float32Array } {
    return { stepS: this.stepFrames / this.rateHz, weighted: this.steps.levels() }
  }

  private slicedLevels(): ChannelMeasurement['levelsDbfsA'] {
    const steps = Math.max(stepsInBlock, Math.ceil(this.steps.length / mostSlices))
    return Array.from(coarser(this.steps.levels(), steps), (db) => Math.round((db + sineCrestDb) * 10) / 10)
  }

  /** Intermediate results: the highest sample, and how many crests are cut at full scale. */
  soFar(): { peakDbfs: number; cut: number } {
    return { peakDbfs: amplitudeDb(this.peak), cut: this.tops.atFullScale }
  }

  finish(): ChannelMeasurement {
    if (this.frame) this.envelope.push([this.low, this.high])
    const read = this.blocks.read()
    const { clipped, more } = this.tops.finish()
    const finite = (db: number) => (Number.isFinite(db) ? db : null)
    // RMS counts re a full-scale sine, so that a sine has the same peak and RMS reading (AES17)
    const level = (powerInDb: number) => finite(powerInDb + sineCrestDb)
    return {
      peakDbfs: finite(amplitudeDb(this.peak)),
      peakAtS: Math.max(0, this.peakFrame) / this.rateHz,
      rmsDbfs: level(powerDb(this.energy / Math.max(1, this.frame))),
      speechDbfsA: read ? level(read.activeDb) : null,
      noiseDbfsA: read ? level(read.pauseDb) : null,
      pauses: read?.pauses ?? false,
      truePeakDbtp: finite(this.between.finish()),
      tone: null,
      ceilingDbfs: clipped.length ? Math.max(...clipped.map(({ levelDbfs }) => levelDbfs)) : null,
      clipped,
      clippedMore: more,
      worstPeak: [...this.worst],
      envelope: this.envelope,
      levelsDbfsA: this.slicedLevels(),
      noiseBands: [],
    }
  }

  /** Envelope, the highest peak and the samples around it, and the power of all. */
  private shape(samples: Float32Array): void {
    const { sliceFrames } = this
    for (let from = 0; from < samples.length;) {
      const inSlice = this.frame % sliceFrames
      if (inSlice === 0) {
        if (this.frame) this.envelope.push([this.low, this.high])
        this.low = this.high = samples[from]!
      }
      const to = Math.min(samples.length, from + sliceFrames - inSlice)
      let { low, high, energy } = this
      for (let index = from; index < to; index++) {
        const sample = samples[index]!
        if (sample < low) low = sample
        else if (sample > high) high = sample
        energy += sample * sample
      }
      this.low = low
      this.high = high
      this.energy = energy
      if (high > this.peak || -low > this.peak) this.peakIn(samples, from, to)
      this.frame += to - from
      from = to
    }
    this.around(samples)
  }
  /** A new highest peak lies in this stretch. */
  private peakIn(samples: Float32Array, from: number, to: number): void {
    for (let index = from; index < to; index++) {
      const size = Math.abs(samples[index]!)
      if (size <= this.peak) continue
      this.peak = size
      this.peakFrame = this.frame + index - from
    }
  }
  /** Keeps the samples around the peak, some of which may be in the block before or after. */
  private around(samples: Float32Array): void {
    const first = this.frame - samples.length
    const before = this.recent.length
    const at = (frame: number): number =>
      (frame >= first ? samples[frame - first] : this.recent[before - (first - frame)]) ?? 0
    if (this.peakFrame >= first) {
      this.worst = []
      for (let frame = Math.max(0, first - before, this.peakFrame - reach); frame <= this.peakFrame; frame++)
        this.worst.push(at(frame))
      this.worstTo = this.peakFrame
    }
    for (const end = this.peakFrame + reach; this.worstTo < end && this.worstTo + 1 < this.frame;)
      this.worst.push(at(++this.worstTo))
    if (samples.length >= reach) this.recent = samples.slice(-reach)
    else this.recent = Float32Array.from([...this.recent, ...samples].slice(-reach))
  }
}
