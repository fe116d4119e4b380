import type { ChannelMeasurement, ClipFault, Loudness } from '../model'
import { ChannelEar, type Ear, type EarExcerpts, type SoFar } from './channel-ear'
import { ExcerptKeeper } from './excerpts'
import { highsOf } from './highs'
import { loudnessOf } from './loudness'
import { Overview } from './overview'
import { type Relation, relationOf } from './relation'
import { type Helper, remoteEars } from './remote-ear'

/** Word length assumed for sound that has none, bits. */
const finestBits = 24

/** Approximate length of an excerpt at any rate, s, rounded to a power of two: it must contain whole cycles of deep sound. */
const excerptFrames = (rateHz: number): number =>
  Math.max(8192, Math.min(32_768, 2 ** Math.round(Math.log2(0.17 * rateHz))))

/** Measurements of a clip. */
export interface Measured {
  channels: ChannelMeasurement[]
  faults: ClipFault[]
  loudness: Loudness
}

/** How a clip is written. */
export interface ClipShape {
  channels: number
  rateHz: number
  bits: number
  /** Length that the file promises. */
  frames: number
  /** Samples are whole numbers in the file, so that each of them is a number. */
  isWhole?: boolean
}

/** Intermediate results while a clip is read, with its wave as the highest sample of each slice. */
export interface ClipSoFar extends SoFar {
  highs: number[]
  slices: number
}

/** Measures all channels of a clip in one pass, and looks for faults. */
export class ClipMeter {
  private readonly ears: readonly Ear[]
  private readonly excerpts: ExcerptKeeper
  private readonly overview: Overview
  private frames = 0

  /** @param helpers take turns at the channels; without them all are listened to here */
  constructor(
    private readonly clip: ClipShape,
    helpers: readonly Helper[] = [],
  ) {
    const { channels, rateHz, bits, frames } = clip
    const all = Array.from({ length: channels }, (_, channel) => ({
      channel,
      rateHz,
      bits: bits || finestBits,
      frames,
    }))
    const away = helpers.map((helper, turn) =>
      remoteEars(
        helper,
        all.filter(({ channel }) => channel % helpers.length === turn),
      ),
    )
    this.ears = all.map(
      (settings) =>
        away[settings.channel % helpers.length]?.get(settings.channel) ?? new ChannelEar(settings),
    )
    this.excerpts = new ExcerptKeeper(channels, excerptFrames(rateHz))
    this.overview = new Overview(frames)
  }

  /** The samples are the meter's from now on. Wait before giving more. */
  async push(given: readonly Float32Array[]): Promise<void> {
    const block = this.clip.isWhole ? given : given.map(finite)
    this.frames += block[0]?.length ?? 0
    const highs = block.map(highsOf)
    this.excerpts.push(block, highs)
    this.overview.push(highs, block[0]?.length ?? 0)
    const taken = this.ears.map((ear, channel) => ear.push(block[channel]!, highs[channel]!))
    await Promise.all(taken.map((each) => Promise.resolve(each)))
  }

  /** Intermediate results of all channels together. */
  soFar(): ClipSoFar {
    const each = this.ears.map((ear) => ear.soFar())
    const { read, all } = this.overview
    return {
      highs: read,
      slices: all,
      peakDbfs: Math.max(...each.map(({ peakDbfs }) => peakDbfs)),
      cut: each.reduce((sum, { cut }) => sum + cut, 0),
    }
  }

  async finish(): Promise<Measured> {
    const { rateHz } = this.clip
    const { loudest } = this.excerpts
    const asked = this.ears.map((ear, channel) => ear.finish(this.excerptsOf(channel)))
    const reports = await Promise.all(asked.map((report) => Promise.resolve(report)))
    const faults = reports.flatMap((report) => report.faults)
    for (let first = 0; first + 1 < reports.length; first += 2) {
      const relation = loudest.length ? relationOf(loudest, first, first + 1, rateHz) : undefined
      if (relation) faults.push(relationFault(relation, first + 1, this.frames / rateHz))
    }
    return {
      channels: reports.map(({ measured }) => measured),
      faults,
      loudness: loudnessOf(reports.map(({ powers }) => powers)),
    }
  }
  private excerptsOf(channel: number): EarExcerpts {
    const { loudest, quietest } = this.excerpts
    const of = (all: typeof loudest) =>
      all.map((excerpt) => ({ ...excerpt, channels: [excerpt.channels[channel]!] }))
    return { loudest: of(loudest), quietest: of(quietest) }
  }
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

/** Replaces NaN and infinity by zero. */
function finite(samples: Float32Array): Float32Array {
  for (const sample of samples)
    if (!Number.isFinite(sample)) return samples.map((each) => (Number.isFinite(each) ? each : 0))
  return samples
}
