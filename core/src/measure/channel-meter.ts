import type { ChannelMeasurement } from '../model'
import { amplitudeDb, powerDb, sineCrestDb } from '../units'
import { AFilter } from './a-filter'
import { FlatTops } from './flat-tops'
import { LevelHistogram } from './level-histogram'
import { TruePeak } from './true-peak'

const blockS = 0.1
const around = 64
const mostSlices = 600

/** Measures one channel as its samples go by; needs the same memory for a minute and for two hours. */
export class ChannelMeter {
  private readonly filter: AFilter
  private readonly tops: FlatTops
  private readonly between: TruePeak
  private readonly blocks = new LevelHistogram()
  private readonly blockFrames: number
  private readonly sliceFrames: number
  private readonly envelope: [number, number][] = []
  private readonly recent = new Float32Array(around)
  private worst: number[] = []
  private frame = 0
  private peak = 0
  private peakFrame = 0
  private energy = 0
  private weighted = 0
  private inBlock = 0
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
    this.blockFrames = Math.round(blockS * rateHz)
    this.sliceFrames = Math.max(1, Math.ceil(frames / mostSlices))
  }

  push(samples: Float32Array): void {
    this.between.push(samples)
    for (const value of samples) {
      const sample = Number.isFinite(value) ? value : 0
      this.shape(sample)
      this.tops.next(sample)
      this.energy += sample * sample
      const heard = this.filter.next(sample)
      this.weighted += heard * heard
      if (++this.inBlock === this.blockFrames) {
        this.blocks.add(this.weighted / this.blockFrames)
        this.weighted = this.inBlock = 0
      }
      this.frame++
    }
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
      peakAtS: this.peakFrame / this.rateHz,
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
    }
  }

  /** Envelope, the highest peak and the samples around it. */
  private shape(sample: number): void {
    if (this.frame % this.sliceFrames === 0) {
      if (this.frame) this.envelope.push([this.low, this.high])
      this.low = this.high = sample
    } else if (sample < this.low) this.low = sample
    else if (sample > this.high) this.high = sample
    if (Math.abs(sample) > this.peak) {
      this.peak = Math.abs(sample)
      this.peakFrame = this.frame
      const before = Math.min(this.frame, around)
      this.worst = Array.from(
        { length: before },
        (_, index) => this.recent[(this.frame - before + index) % around]!,
      )
      this.worst.push(sample)
    } else if (this.worst.length && this.frame - this.peakFrame <= around) this.worst.push(sample)
    this.recent[this.frame % around] = sample
  }
}
