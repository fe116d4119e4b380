import type { ChannelMeasurement, ClipFault, Loudness } from '../model'
import { ChannelFaults } from './channel-faults'
import { ChannelMeter } from './channel-meter'
import { highsOf } from './highs'
import { type Excerpt, ExcerptKeeper } from './excerpts'
import { usualSpeechDbfs } from './level-histogram'
import { LoudnessMeter } from './loudness'
import { type Relation, relationOf } from './relation'
import { thirdsOf } from './spectrum'
import { toneIn } from './tone'
import { powerDb } from '../units'

type MeasuredBand = ChannelMeasurement['noiseBands'][number]

/** Of sound without a word length the meters look as finely as at this one. */
const finestBits = 24

/** What a clip says of its sound. */
export interface Measured {
  channels: ChannelMeasurement[]
  faults: ClipFault[]
  loudness: Loudness
}

/** What is known of a clip while it is being read: its highest peak, and how many crests are cut at full scale. */
export interface SoFar {
  peakDbfs: number
  cut: number
}

/** Measures all channels of a clip in one pass, and looks for what is wrong in them. */
export class ClipMeter {
  private readonly meters: ChannelMeter[]
  private readonly listeners: ChannelFaults[]
  private readonly loudness: LoudnessMeter
  private readonly excerpts: ExcerptKeeper
  private frames = 0

  /**
   * @param frames length that the file promises
   * @param isWhole samples are whole numbers in the file, so that each of them is a number
   */
  constructor(
    channels: number,
    private readonly rateHz: number,
    bits: number,
    frames: number,
    private readonly isWhole = false,
  ) {
    const all = Array.from({ length: channels })
    this.meters = all.map(() => new ChannelMeter(rateHz, bits || finestBits, frames))
    this.listeners = all.map(() => new ChannelFaults(rateHz))
    this.loudness = new LoudnessMeter(rateHz, channels)
    this.excerpts = new ExcerptKeeper(channels)
  }

  push(given: readonly Float32Array[]): void {
    const block = this.isWhole ? given : given.map(finite)
    block.forEach((samples, channel) => {
      const highs = highsOf(samples)
      this.meters[channel]!.push(samples, highs)
      this.listeners[channel]!.push(samples, highs)
    })
    this.loudness.push(block)
    this.excerpts.push(block)
    this.frames += block[0]?.length ?? 0
  }

  /** What can be told of all channels together before the end. */
  soFar(): SoFar {
    const each = this.meters.map((meter) => meter.soFar())
    return {
      peakDbfs: Math.max(...each.map(({ peakDbfs }) => peakDbfs)),
      cut: each.reduce((sum, { cut }) => sum + cut, 0),
    }
  }

  finish(): Measured {
    const { loudest: excerpts, quietest } = this.excerpts
    const lengthS = this.frames / this.rateHz
    const faults: ClipFault[] = []
    const channels = this.meters.map((meter, channel) => {
      const measured = meter.finish()
      const tone = toneIn(excerpts, channel, this.rateHz) ?? null
      const listener = this.listeners[channel]!
      const pressed = measured.clipped.length || tone ? undefined : listener.pressed(excerpts, channel)
      const clipped = pressed?.clipped ?? measured.clipped
      if (!tone) {
        const speechDbfs = measured.speechDbfsA ?? usualSpeechDbfs
        faults.push(...listener.finish(channel, { speechDbfs, lengthS, clipped, ...meter.levels() }))
      }
      return {
        ...measured,
        tone,
        noiseBands: noiseBandsOf(quietest, channel, this.rateHz),
        ...(pressed && {
          clipped: pressed.clipped,
          clippedMore: pressed.more,
          ceilingDbfs: pressed.ceilingDbfs,
        }),
      }
    })
    for (let first = 0; first + 1 < channels.length; first += 2) {
      const relation = excerpts.length ? relationOf(excerpts, first, first + 1, this.rateHz) : undefined
      if (relation) faults.push(relationFault(relation, first + 1, lengthS))
    }
    return { channels, faults, loudness: this.loudness.finish() }
  }
}

/** What is left when nobody speaks, in thirds of an octave. */
function noiseBandsOf(quietest: readonly Excerpt[], channel: number, rateHz: number): MeasuredBand[] {
  const each = quietest.map(({ channels }) => thirdsOf(channels[channel]!, rateHz))
  return (each[0] ?? []).map(({ hz }, band) => {
    const db = powerDb(
      each.reduce((sum, bands) => sum + 10 ** (bands[band]!.levelDbfs / 10), 0) / each.length,
    )
    return { hz: Math.round(hz), levelDbfs: Number.isFinite(db) ? Math.round(db * 10) / 10 : null }
  })
}

const relationFault = (relation: Relation, channel: number, lengthS: number): ClipFault => {
  const shared = {
    channel,
    ranges: [{ fromS: 0, toS: lengthS }],
    more: 0,
    confidence: Math.min(1, Math.abs(relation.likeness)),
    differenceDb: relation.differenceDb,
    likeness: relation.likeness,
  }
  switch (relation.kind) {
    case 'equal':
      return { code: 'channels equal', ...shared }
    case 'unequal':
      return { code: 'channels unequal', ...shared }
    case 'opposite':
      return { code: 'channels opposite', ...shared }
    case 'delayed':
      return { code: 'channels delayed', ...shared, delayMs: relation.delayMs }
    case 'one silent':
      return { code: 'one channel silent', ...shared, confidence: 0.9 }
  }
}

/** What is no number counts as nothing. */
function finite(samples: Float32Array): Float32Array {
  for (const sample of samples)
    if (!Number.isFinite(sample)) return samples.map((each) => (Number.isFinite(each) ? each : 0))
  return samples
}
