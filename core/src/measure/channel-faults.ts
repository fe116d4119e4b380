import type { ClipFault, ClipRange, TimeRange } from '../model'
import { amplitudeDb, sineCrestDb } from '../units'
import { AFilter } from './a-filter'
import { burstsIn } from './bursts'
import { ClickMeter } from './clicks'
import { CrestCounter } from './crests'
import { Decimator } from './decimator'
import { DropoutMeter } from './dropouts'
import type { Excerpt } from './excerpts'
import { HumMeter } from './hum'
import { LevelSeries } from './level-series'
import { pressedOf } from './pressed'
import { pumpingIn } from './pumping'
import { RustleMeter } from './rustle'

const stepS = 0.01
/** What the slower looks work at, Hz, about. */
const middleRateHz = 12_000
const deepHz = 25
const mostRanges = 200

/** Ranges as they are told: so many, and the number of the others. */
function told(ranges: readonly TimeRange[]): { ranges: TimeRange[]; more: number } {
  const first = ranges.slice(0, mostRanges).map(({ fromS, toS }) => ({ fromS, toS }))
  return { ranges: first, more: ranges.length - first.length }
}

/** Low-pass of second order, twice: what is deep. */
class Deep {
  private readonly c: [number, number, number]
  private readonly s = new Float64Array(4)
  constructor(rateHz: number) {
    const k = Math.tan((Math.PI * deepHz) / rateHz)
    const a0 = 1 + Math.SQRT2 * k + k * k
    this.c = [(k * k) / a0, (2 * (k * k - 1)) / a0, (1 - Math.SQRT2 * k + k * k) / a0]
  }
  next(sample: number): number {
    const { s } = this
    const [b, a1, a2] = this.c
    const once = b * sample + s[0]!
    s[0] = 2 * b * sample - a1 * once + s[1]!
    s[1] = b * sample - a2 * once
    const twice = b * once + s[2]!
    s[2] = 2 * b * once - a1 * twice + s[3]!
    s[3] = b * once - a2 * twice
    return twice
  }
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
  private readonly aFilter: AFilter
  private readonly deep: Deep
  private readonly weighted = new LevelSeries()
  private readonly deepLevels = new LevelSeries()
  private readonly restLevels = new LevelSeries()
  private readonly middleFrames: number
  private readonly lowFrames: number
  private readonly middleStepS: number
  private readonly lowStepS: number
  private sums = { weighted: 0, frames: 0, deep: 0, all: 0, lowFrames: 0 }

  constructor(private readonly rateHz: number) {
    this.middle = new Decimator(Math.max(1, Math.round(rateHz / middleRateHz)))
    const middle = rateHz / this.middle.factor
    const low = middle / this.low.factor
    this.crests = new CrestCounter(rateHz)
    this.dropouts = new DropoutMeter(rateHz)
    this.clicks = new ClickMeter(rateHz)
    this.hum = new HumMeter(low)
    this.rustle = new RustleMeter(middle)
    this.aFilter = new AFilter(middle)
    this.deep = new Deep(low)
    this.middleFrames = Math.round(stepS * middle)
    this.lowFrames = Math.round(stepS * low)
    this.middleStepS = this.middleFrames / middle
    this.lowStepS = this.lowFrames / low
  }

  push(samples: Float32Array): void {
    this.crests.push(samples)
    this.dropouts.push(samples)
    this.clicks.push(samples)
    const middle = this.middle.push(samples)
    this.rustle.push(middle)
    const { sums } = this
    for (let from = 0; from < middle.length;) {
      const to = Math.min(middle.length, from + this.middleFrames - sums.frames)
      sums.weighted += this.aFilter.power(middle, from, to)
      sums.frames += to - from
      from = to
      if (sums.frames < this.middleFrames) continue
      this.weighted.add(sums.weighted / this.middleFrames)
      sums.weighted = sums.frames = 0
    }
    const low = this.low.push(middle)
    this.hum.push(low)
    for (const sample of low) {
      const deep = this.deep.next(sample)
      sums.deep += deep * deep
      sums.all += (sample - deep) ** 2
      if (++sums.lowFrames < this.lowFrames) continue
      this.deepLevels.add(sums.deep / this.lowFrames)
      this.restLevels.add(sums.all / this.lowFrames)
      sums.deep = sums.all = sums.lowFrames = 0
    }
  }

  /** How the crests are pressed, told as places that are clipped. */
  pressed(
    excerpts: readonly Excerpt[],
    channel: number,
  ): { clipped: ClipRange[]; more: number; ceilingDbfs: number } | undefined {
    return pressedOf(this.crests, excerpts, channel, this.rateHz)
  }

  /** @param speechDbfs A-weighted level of speech, re a full-scale sine */
  finish(channel: number, speechDbfs: number, lengthS: number, clipped: readonly TimeRange[]): ClipFault[] {
    const speechDb = speechDbfs - sineCrestDb
    const dropouts = this.dropouts.finish()
    const rustle = this.rustle.finish(speechDb)
    return [
      ...this.humOf(channel, speechDbfs, lengthS),
      ...this.burstsOf(channel, speechDb),
      ...this.pumpingOf(channel),
      ...dropoutFaults(channel, dropouts),
      ...rustleFaults(channel, rustle),
      // what stops, crackles or is cut jumps by itself
      ...this.clicksOf(channel, [...dropouts, ...rustle, ...clipped]),
    ]
  }

  private humOf(channel: number, speechDbfs: number, lengthS: number): ClipFault[] {
    const hum = this.hum.finish()
    if (!hum || hum.levelDbfs < speechDbfs - inaudibleUnderSpeechDb) return []
    const { confidence, mainsHz, levelDbfs } = hum
    return [{ code: 'hum', channel, ...told([{ fromS: 0, toS: lengthS }]), confidence, mainsHz, levelDbfs }]
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
      return [{ code, channel, ...told(those), confidence: sure.burst, levelDbfs }]
    })
  }
  private pumpingOf(channel: number): ClipFault[] {
    const pumping = pumpingIn(this.weighted.levels(), this.middleStepS)
    if (!pumping) return []
    const { ranges, confidence, risesDb, releaseS } = pumping
    return [{ code: 'pumping', channel, ...told(ranges), confidence, risesDb, releaseS }]
  }
  private clicksOf(channel: number, besides: readonly TimeRange[]): ClipFault[] {
    const clicks = this.clicks
      .finish()
      .filter(({ atS }) => !besides.some(({ fromS, toS }) => atS > fromS - nearS && atS < toS + nearS))
    if (clicks.length === 0) return []
    const levelDbfs = amplitudeDb(Math.max(...clicks.map(({ size }) => size)))
    const ranges = clicks.map(({ atS }) => ({ fromS: atS, toS: atS + 0.001 }))
    return [{ code: 'click', channel, ...told(ranges), confidence: sure.click, levelDbfs }]
  }
}

/** Hum softer than this under the speech nobody hears. */
const inaudibleUnderSpeechDb = 55
/** A click so near to something else belongs to it. */
const nearS = 0.02
/** How sure a detector is that has no figure of its own: shares of what it found that were right, at moderate strength. */
const sure = { burst: 0.9, dropout: 0.9, rustle: 0.8, click: 0.8 } as const
const lengthOf = ({ fromS, toS }: TimeRange): number => toS - fromS

function dropoutFaults(channel: number, dropouts: readonly TimeRange[]): ClipFault[] {
  if (dropouts.length === 0) return []
  const longestS = Math.max(...dropouts.map(lengthOf))
  return [{ code: 'dropout', channel, ...told(dropouts), confidence: sure.dropout, longestS }]
}
function rustleFaults(channel: number, rustle: readonly TimeRange[]): ClipFault[] {
  if (rustle.length === 0) return []
  const totalS = rustle.reduce((sum, range) => sum + lengthOf(range), 0)
  return [{ code: 'rustle', channel, ...told(rustle), confidence: sure.rustle, totalS }]
}
