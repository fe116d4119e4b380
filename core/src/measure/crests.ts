import type { ClipRange } from '../model'
import { amplitudeDb, amplitudeFromDb } from '../units'

/** Crests are told apart by level in steps of so many dB, from here up. */
const binsPerDb = 2
const lowestDb = -60
const bins = 70 * binsPerDb
/** Of these the shape is looked at more closely: so far under the highest, dB. */
const topDb = 2.5
const mostTops = 20_000
/** A lower crest tells how the wave looks where nothing presses it: between these, dB under the highest. */
const referenceDb = { from: 4.5, to: 14 }
/** A crest is at least so many samples wide at half its height: less has no shape. */
const narrowest = 6
const widest = 4096
/** Quieter ones are left alone. */
const quietest = 0.01
const shapeSteps = 50
const joinS = 0.05
const mostRanges = 500

/** A crest near the highest: how it looks. */
interface Top {
  frame: number
  width: number
  level: number
  /** Width at nine tenths of the height over that at half of it: 0.43 for a sine, 1 for a square. */
  squareness: number
  /** Longest straight part over the width at half the height. */
  straight: number
  /** How fast the straight part falls, as a share of the height per second. */
  fallPerS: number
}

/** What the crests of one side, or of both, say. */
export interface Pressed {
  shape: 'flat below full scale' | 'bent' | 'sagging'
  ceilingDbfs: number
  /** 0 to 1. */
  confidence: number
}

/**
 * Tells by the shape of crests whether something presses them: an amplifier that gives way. Whatever the sound, a chain
 * that presses nothing leaves loud crests of the same shape as softer ones; one that does makes the loudest broad. Works
 * under noise that came later, where no two samples of a cut top are alike.
 */
export class CrestMeter {
  private readonly lobe = new Float32Array(widest)
  private length = 0
  private overlong = false
  private sign = 0
  private frame = 0
  private high = 0
  /** By level and shape. */
  private readonly shapes = new Uint32Array(bins * (shapeSteps + 1))
  private tops: Top[] = []
  private highest = 0
  private more = 0

  constructor(private readonly rateHz: number) {}

  push(samples: Float32Array): void {
    for (const sample of samples) {
      const sign = sample < 0 ? -1 : 1
      if (sign !== this.sign) {
        if (this.high >= quietest && !this.overlong) this.close()
        this.sign = sign
        this.length = this.high = 0
        this.overlong = false
      }
      const size = sign * sample
      if (this.length < widest) this.lobe[this.length++] = size
      else this.overlong = true
      if (size > this.high) this.high = size
      this.frame++
    }
  }

  /** A half-wave has ended. */
  private close(): void {
    const { lobe, length, high } = this
    const at = lobe.subarray(0, length).indexOf(high)
    const [from50, to50] = this.around(at, 0.5 * high)
    const width = to50 - from50
    if (width < narrowest) return
    let near = 0
    let half = 0
    for (let index = 0; index < length; index++) {
      if (lobe[index]! >= 0.93 * high) near++
      if (lobe[index]! >= 0.5 * high) half++
    }
    const squareness = Math.min(1, near / half)
    const db = amplitudeDb(high)
    const bin = Math.min(bins - 1, Math.max(0, Math.floor((db - lowestDb) * binsPerDb)))
    this.shapes[bin * (shapeSteps + 1) + Math.round(squareness * shapeSteps)]!++
    if (high > this.highest) {
      this.highest = high
      const limit = high * amplitudeFromDb(-topDb)
      if (this.tops.length && this.tops[0]!.level < limit) this.tops = this.tops.filter(({ level }) => level >= limit)
    }
    if (high < this.highest * amplitudeFromDb(-topDb)) return
    if (this.tops.length === mostTops) this.tops = this.tops.filter((_, index) => index % 2 === 0)
    this.tops.push({
      frame: this.frame - length + at,
      width,
      level: high,
      squareness,
      ...this.straightness(from50, to50, high),
    })
  }

  /** Where the half-wave rises over a level and falls under it again, around a place. */
  private around(at: number, level: number): [number, number] {
    const { lobe, length } = this
    let from = at
    while (from > 0 && lobe[from - 1]! >= level) from--
    let to = at
    while (to < length - 1 && lobe[to + 1]! >= level) to++
    const before = from > 0 ? lobe[from - 1]! : 0
    const after = to < length - 1 ? lobe[to + 1]! : 0
    return [
      from - (lobe[from]! - level) / Math.max(1e-12, lobe[from]! - before),
      to + (lobe[to]! - level) / Math.max(1e-12, lobe[to]! - after),
    ]
  }

  /** The longest stretch of a crest without a curve, and how it falls. */
  private straightness(from50: number, to50: number, high: number): { straight: number; fallPerS: number } {
    const { lobe, rateHz } = this
    const width = to50 - from50
    const step = Math.max(1, Math.round(width / 16))
    const from = Math.max(step, Math.ceil(from50))
    const to = Math.min(this.length - 1 - step, Math.floor(to50))
    // the second difference of a sine's crest, a quarter of it
    const limit = 0.25 * high * ((2.09 * step) / width) ** 2
    let [begin, longest, start] = [from, 0, from]
    for (let index = from; index <= to + 1; index++) {
      const curve =
        index > to || lobe[index]! < 0.6 * high
          ? Infinity
          : Math.abs(lobe[index + step]! - 2 * lobe[index]! + lobe[index - step]!)
      if (curve <= limit) continue
      if (index - begin > longest) {
        longest = index - begin
        start = begin
      }
      begin = index + 1
    }
    const end = start + longest - 1
    const fall = longest > 1 ? (lobe[start]! - lobe[end]!) / (high * (longest - 1)) : 0
    return { straight: longest / width, fallPerS: fall * rateHz }
  }

  /** What is pressed, and where; undefined where nothing is. */
  finish(): { pressed: Pressed; clipped: ClipRange[]; more: number } | undefined {
    if (this.high >= quietest && !this.overlong) this.close()
    const seen = this.look()
    const pressed = seen && judge(seen)
    if (!pressed) return undefined
    const limit = amplitudeFromDb(pressed.ceilingDbfs - (pressed.shape === 'bent' ? 1.5 : 1))
    const tops = this.tops.filter(({ level, squareness }) => level >= limit && squareness > seen.usual + 0.08)
    return { pressed, ...this.ranges(tops, pressed) }
  }

  /** @internal figures that the judgement rests on */
  look(): Seen | undefined {
    const tops = this.tops.filter(({ level }) => level >= this.highest * amplitudeFromDb(-topDb))
    const usual = this.usualSquareness()
    if (tops.length < 4 || usual === undefined) return undefined
    const limit = this.highest * amplitudeFromDb(-1)
    const first = tops.filter(({ level }) => level >= limit)
    const sorted = (values: number[]) => values.sort((one, other) => one - other)
    const straight = sorted(first.map((top) => top.straight))
    const cut = first.filter((top) => top.straight > 0.25)
    const falls = sorted(cut.map(({ fallPerS }) => fallPerS))
    const levels = sorted(first.map(({ level }) => level))
    return {
      highestDb: amplitudeDb(this.highest),
      usual: usual.middle,
      usualSpread: usual.spread,
      references: usual.count,
      tops: first.length,
      below: tops.length - first.length,
      squareness: middle(sorted(first.map((top) => top.squareness))),
      straight: middle(straight),
      straightShare: cut.length / first.length,
      fallPerS: middle(falls),
      fallSpread: falls.length ? falls[Math.floor(0.75 * falls.length)]! - falls[Math.floor(0.25 * falls.length)]! : 0,
      levelDb: amplitudeDb(middle(levels)),
      curve: this.curve(),
    }
  }

  /** Middle squareness by level, dB under the highest. */
  private curve(): { underDb: number; squareness: number; count: number }[] {
    const top = amplitudeDb(this.highest)
    return Array.from({ length: 16 * binsPerDb }, (_, index) => {
      const underDb = (index + 0.5) / binsPerDb
      const bin = Math.floor((top - underDb - lowestDb) * binsPerDb)
      const { middle: squareness, count } = this.quantiles(bin, bin + 1)
      return { underDb, squareness, count }
    }).filter(({ count }) => count > 0)
  }

  private usualSquareness(): { middle: number; spread: number; count: number } | undefined {
    const top = amplitudeDb(this.highest)
    const from = Math.floor((top - referenceDb.to - lowestDb) * binsPerDb)
    const to = Math.floor((top - referenceDb.from - lowestDb) * binsPerDb)
    const found = this.quantiles(from, to)
    return found.count >= 8 ? found : undefined
  }
  private quantiles(fromBin: number, toBin: number): { middle: number; spread: number; count: number } {
    const counts = new Float64Array(shapeSteps + 1)
    let count = 0
    for (let bin = Math.max(0, fromBin); bin < Math.min(bins, toBin); bin++)
      for (let step = 0; step <= shapeSteps; step++) {
        const here = this.shapes[bin * (shapeSteps + 1) + step]!
        counts[step]! += here
        count += here
      }
    const at = (share: number) => {
      let sum = 0
      for (let step = 0; step <= shapeSteps; step++) if ((sum += counts[step]!) >= share * count) return step / shapeSteps
      return 1
    }
    return { middle: at(0.5), spread: at(0.84) - at(0.16), count }
  }

  private ranges(tops: readonly Top[], { shape }: Pressed): { clipped: ClipRange[]; more: number } {
    const ranges: (ClipRange & { lastFrame: number })[] = []
    for (const { frame, width, level } of tops) {
      const last = ranges.at(-1)
      const samples = Math.max(1, Math.round(width / 2))
      if (last && frame - last.lastFrame < joinS * this.rateHz) {
        last.toS = (frame + width / 2) / this.rateHz
        last.lastFrame = frame
        last.samples += samples
        last.levelDbfs = Math.max(last.levelDbfs, amplitudeDb(level))
      } else
        ranges.push({
          fromS: Math.max(0, frame - width / 2) / this.rateHz,
          toS: (frame + width / 2) / this.rateHz,
          levelDbfs: amplitudeDb(level),
          shape,
          samples,
          lastFrame: frame,
        })
    }
    const clipped = ranges.slice(0, mostRanges).map(({ lastFrame: _, ...range }) => range)
    return { clipped, more: this.more + ranges.length - clipped.length }
  }
}

/** Figures that a judgement of crests rests on. */
export interface Seen {
  highestDb: number
  usual: number
  usualSpread: number
  references: number
  tops: number
  below: number
  squareness: number
  straight: number
  straightShare: number
  fallPerS: number
  fallSpread: number
  levelDb: number
  curve: { underDb: number; squareness: number; count: number }[]
}

const middle = (sorted: readonly number[]): number => sorted[Math.floor(sorted.length / 2)] ?? 0

function judge(seen: Seen): Pressed | undefined {
  const wider = seen.squareness - seen.usual
  if (seen.tops < 6 || wider < 0.14) return undefined
  return { shape: 'bent', ceilingDbfs: seen.highestDb, confidence: 0.5 }
}
