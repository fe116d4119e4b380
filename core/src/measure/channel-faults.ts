import type { ClipFault, ClipRange, TimeRange } from '../model'
import { FilterChain, lowPass } from '../signals'
import { amplitudeDb, sineCrestDb } from '../units'
import { burstsIn } from './bursts'
import { ClickMeter } from './clicks'
import { CrestCounter } from './crests'
import { Decimator } from './decimator'
import { DropoutMeter } from './dropouts'
import type { Excerpt } from './excerpts'
import { highsOf } from './highs'
import { HumMeter } from './hum'
import { LevelSeries } from './level-series'
import { pressedOf } from './pressed'
import { pumpingIn } from './pumping'
import { RustleMeter } from './rustle'

const stepS = 0.01
/** Approximate rate that the slower detectors work at, Hz. */
const middleRateHz = 12_000
const deepHz = 25
const mostRanges = 200

/** The first ranges, and the number of the others. */
function listed(ranges: readonly TimeRange[]): { ranges: TimeRange[]; more: number } {
  const first = ranges.slice(0, mostRanges).map(({ fromS, toS }) => ({ fromS, toS }))
  return { ranges: first, more: ranges.length - first.length }
}

/** Listens to one channel for everything that can be wrong in it, as its samples go by. */
export class ChannelFaults {
  private readonly crests: CrestCounter
  private readonly dropouts: DropoutMeter
  private readonly clicks: ClickMeter
  private readonly middle: Decimator
  private readonly low = new Decimator(6)
  private readonly hum: HumMeter
  private readonly rustle: RustleMeter
  private readonly deep: FilterChain
  private readonly deepLevels = new LevelSeries()
  private readonly restLevels = new LevelSeries()
  private readonly lowFrames: number
  private readonly lowStepS: number
  private sums = { deep: 0, rest: 0, frames: 0 }

  constructor(private readonly rateHz: number) {
    this.middle = new Decimator(Math.max(1, Math.round(rateHz / middleRateHz)))
    const middle = rateHz / this.middle.factor
    const low = middle / this.low.factor
    this.crests = new CrestCounter(rateHz)
    this.dropouts = new DropoutMeter(rateHz)
    this.clicks = new ClickMeter(rateHz)
    this.hum = new HumMeter(low)
    this.rustle = new RustleMeter(middle)
    this.deep = new FilterChain(lowPass(deepHz, low), lowPass(deepHz, low))
    this.lowFrames = Math.round(stepS * low)
    this.lowStepS = this.lowFrames / low
  }

  /** @param highs of the samples, where somebody has them already */
  push(samples: Float32Array, highs = highsOf(samples)): void {
    this.crests.push(samples, highs)
    this.dropouts.push(samples)
    this.clicks.push(samples)
    const middle = this.middle.push(samples)
    this.rustle.push(middle)
    const low = this.low.push(middle)
    this.hum.push(low)
    const deep = this.deep.run(low.slice())
    const { sums, lowFrames } = this
    for (let index = 0; index < low.length; index++) {
      sums.deep += deep[index]! ** 2
      sums.rest += (low[index]! - deep[index]!) ** 2
      if (++sums.frames < lowFrames) continue
      this.deepLevels.add(sums.deep / lowFrames)
      this.restLevels.add(sums.rest / lowFrames)
      sums.deep = sums.rest = sums.frames = 0
    }
  }

  /** How the crests are pressed, reported as places that are clipped. */
  pressed(
    excerpts: readonly Excerpt[],
    channel: number,
  ): { clipped: ClipRange[]; more: number; ceilingDbfs: number } | undefined {
    return pressedOf(this.crests, excerpts, channel, this.rateHz)
  }

  /** Faults that were found, judged by the channel's levels. */
  finish(channel: number, heard: HeardChannel): ClipFault[] {
    const { speechDbfs, clipped } = heard
    const speechDb = speechDbfs - sineCrestDb
    const dropouts = this.dropouts.finish()
    const rustle = this.rustle.finish(speechDb)
    const bursts = this.burstsOf(channel, speechDb)
    return [
      ...this.humOf(channel, heard),
      ...bursts,
      ...pumpingOf(channel, heard),
      ...dropoutFaults(channel, dropouts),
      ...rustleFaults(channel, rustle),
      // dropouts, rustling, bursts and clipping contain jumps themselves
      ...this.clicksOf(channel, [
        ...dropouts.ranges,
        ...rustle.ranges.map(frayed),
        ...bursts.flatMap(({ ranges }) => ranges),
        ...clipped,
      ]),
    ]
  }

  private humOf(channel: number, { speechDbfs, lengthS }: HeardChannel): ClipFault[] {
    const hum = this.hum.finish()
    if (!hum || hum.levelDbfs < speechDbfs - inaudibleUnderSpeechDb) return []
    const { confidence, mainsHz, levelDbfs } = hum
    return [{ code: 'hum', channel, ...listed([{ fromS: 0, toS: lengthS }]), confidence, mainsHz, levelDbfs }]
  }
  private burstsOf(channel: number, speechDb: number): ClipFault[] {
    const bursts = burstsIn(
      { stepS: this.lowStepS, deep: this.deepLevels.levels(), rest: this.restLevels.levels() },
      speechDb,
    )
    return (['wind', 'pop'] as const).flatMap((code): ClipFault[] => {
      const those = bursts.filter(({ kind }) => kind === code)
      if (those.length === 0) return []
      const levelDbfs = Math.max(...those.map((each) => each.levelDbfs)) + sineCrestDb
      const overDb = Math.max(...those.map((each) => each.overDb))
      return [{ code, channel, ...listed(those), confidence: 1 - Math.exp(-overDb / sureOverDb), levelDbfs }]
    })
  }
  private clicksOf(channel: number, besides: readonly TimeRange[]): ClipFault[] {
    const clicks = this.clicks
      .finish()
      .filter(({ atS }) => !besides.some(({ fromS, toS }) => atS > fromS - nearS && atS < toS + nearS))
    if (clicks.length === 0) return []
    const levelDbfs = amplitudeDb(Math.max(...clicks.map(({ size }) => size)))
    const ranges = clicks.map(({ atS }) => ({ fromS: atS, toS: atS + 0.001 }))
    const confidence = 1 - 1 / Math.max(...clicks.map(({ ratio }) => ratio))
    return [{ code: 'click', channel, ...listed(ranges), confidence, levelDbfs }]
  }
}

/** Facts about a channel from its levels. */
export interface HeardChannel {
  /** A-weighted level of speech, re a full-scale sine. */
  speechDbfs: number
  lengthS: number
  clipped: readonly TimeRange[]
  /** A-weighted levels in steps, dB of the mean square. */
  stepS: number
  weighted: Float32Array
}

/** Hum this far below speech is inaudible, dB. */
const inaudibleUnderSpeechDb = 55
/** A click this close to another finding belongs to it, s. */
const nearS = 0.02
/** Excess over the threshold at which confidence reaches two thirds, dB. */
const sureOverDb = 5
/** Clicks this close to rustling belong to it, s: its first and last crackles stand apart. */
const frayedS = 0.1
const frayed = ({ fromS, toS }: TimeRange): TimeRange => ({ fromS: fromS - frayedS, toS: toS + frayedS })
const lengthOf = ({ fromS, toS }: TimeRange): number => toS - fromS

function pumpingOf(channel: number, { weighted, stepS: fineS }: HeardChannel): ClipFault[] {
  const pumping = pumpingIn(weighted, fineS)
  if (!pumping) return []
  const { ranges, confidence, risesDb, releaseS } = pumping
  return [{ code: 'pumping', channel, ...listed(ranges), confidence, risesDb, releaseS }]
}
/** Places of one kind, and how sure they are. */
interface Placed {
  ranges: readonly TimeRange[]
  confidence: number
}
function dropoutFaults(channel: number, { ranges, confidence }: Placed): ClipFault[] {
  if (ranges.length === 0) return []
  return [
    { code: 'dropout', channel, ...listed(ranges), confidence, longestS: Math.max(...ranges.map(lengthOf)) },
  ]
}
function rustleFaults(channel: number, { ranges, confidence }: Placed): ClipFault[] {
  if (ranges.length === 0) return []
  const totalS = ranges.reduce((sum, range) => sum + lengthOf(range), 0)
  return [{ code: 'rustle', channel, ...listed(ranges), confidence, totalS }]
}
