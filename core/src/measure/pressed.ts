import type { ClipRange } from '../model'
import { amplitudeDb, amplitudeFromDb } from '../units'
import { CrestCounter, rangesOf, type Top } from './crests'
import type { Excerpt } from './excerpts'

/** Where nothing presses, as a rule: dB under the highest. */
const usualDb = [4.5, 14] as const
/** Level bands below the highest crest, dB: the tops themselves, and those just below. */
const highestDb = 0.75
const nextDb = 1.75

/** How the highest crests differ from the others; widths in spreads of the others. */
export interface Look {
  highestDb: number
  usual: number
  tops: number
  /** Number of separate moments with them: syllables, blows. */
  moments: number
  wider: number
  nextWider: number
  /** Broad crests within 2 dB: how many, and how far below the highest their median lies, dB. */
  broad: number
  broadUnderDb: number
  /** How many reach the highest dB, for each in the one under it. */
  pile: number
}

/**
 * Whatever the sound, a chain that presses nothing leaves its highest waves in the shape of the lower ones; one that cuts or
 * bends leaves them broad. That shows under noise that came later, where no two samples of a cut top are alike. Undefined
 * where there is too little to tell.
 */
export function lookAt(crests: CrestCounter, rateHz: number): Look | undefined {
  const usual = crests.under(...usualDb)
  const top = crests.under(0, highestDb)
  const next = crests.under(highestDb, nextDb)
  if (usual.count < 20 || top.count < 4) return undefined
  const spread = Math.max(0.04, usual.spread)
  const broad = crests
    .tops(2)
    .filter(({ dwell }) => dwell > broadFrom * usual.dwell)
    .map(({ level }) => crests.highestDb - amplitudeDb(level))
    .sort((one, other) => one - other)
  return {
    highestDb: crests.highestDb,
    usual: usual.dwell,
    tops: top.count,
    moments: momentsOf(crests.tops(highestDb), rateHz),
    wider: (top.dwell - usual.dwell) / spread,
    nextWider: next.count ? (next.dwell - usual.dwell) / spread : 0,
    broad: broad.length,
    broadUnderDb: broad[Math.floor(broad.length / 2)] ?? Infinity,
    pile: crests.under(0, 1).count / Math.max(1, crests.under(1, 2).count),
  }
}

/** Tops closer together than this belong to one sound, s. */
const momentS = 0.08
function momentsOf(tops: readonly Top[], rateHz: number): number {
  let [count, last] = [0, -Infinity]
  for (const { frame } of tops) {
    if (frame - last > momentS * rateHz) count++
    last = frame
  }
  return count
}

/** By how much the highest must be wider: less where crests pile up at the top instead of getting fewer towards it... */
const widerAtLeast = { piled: 1.2, thinning: 1.9 } as const
const piledFrom = 0.7
/** ...and more if all lie in one moment, for a single vowel may be broad by nature. */
const widerInOneMoment = 2.4
/** Least significance of that widening. */
const chancesAtLeast = 4
/** Fewest tops at the highest level: pressing brings many to one height. */
const fewestTops = 8
/** A crest is broad if it dwells this many times longer than usual. */
const broadFrom = 1.35
/** Spread of broad crests below which they are cut rather than bent, dB. */
const oneLevelDb = 0.15
const fewestBroad = 6
/** Fewest broad crests of a bend: a single vowel has a few by nature. */
const fewestBent = 25
/** How much wider the crests must get when a coupling capacitor's high-pass is undone. */
const sagGain = 0.9

const isPressed = ({ wider, tops, moments, broad, pile }: Look): boolean =>
  broad >= fewestBent &&
  tops >= fewestTops &&
  wider >= (moments < 2 ? widerInOneMoment : widerAtLeast[pile >= piledFrom ? 'piled' : 'thinning']) &&
  wider * Math.sqrt(tops) >= chancesAtLeast

const isCut = ({ wider, broad, broadUnderDb, moments }: Look): boolean =>
  broad >= fewestBroad && broadUnderDb < oneLevelDb && wider >= (moments > 1 ? 0.5 : 1.2)

/** How the crests of a channel are clipped. */
export interface Pressed {
  shape: 'flat below full scale' | 'bent' | 'sagging'
  ceilingDbfs: number
  clipped: ClipRange[]
  more: number
}

/** Judges a channel by the crests of all of it and by its loudest excerpts. */
export function pressedOf(
  crests: CrestCounter,
  excerpts: readonly Excerpt[],
  channel: number,
  rateHz: number,
): Pressed | undefined {
  const look = lookAt(crests, rateHz)
  const cut = look && isCut(look)
  const sag = cut ? undefined : sagOf(excerpts, channel, rateHz)
  if (sag) return sag
  if (!look || !(cut || isPressed(look))) return undefined
  const shape = cut ? 'flat below full scale' : 'bent'
  const tops = crests.tops(cut ? highestDb : 1.5).filter(({ dwell }) => dwell > 1.1 * look.usual)
  const ceilingDbfs = cut ? look.highestDb - look.broadUnderDb : bentCeilingDb(crests, look)
  return { shape, ceilingDbfs, ...rangesOf(tops, shape, rateHz, confidenceOf(look)) }
}

const confidenceOf = ({ wider, tops }: Look): number =>
  Math.min(0.99, 1 - Math.exp(-wider * Math.sqrt(Math.min(tops, 60)) * 0.35))

/** Level difference allowed between both polarities, dB: undoing the high-pass cannot restore DC. */
const sidesApartDb = 4
/** Level half way between the ceilings of both sides, dBFS. */
function sidesDb(tops: readonly Top[]): number {
  const sides = [true, false].map((isNegative) => {
    const levels = tops.filter((top) => top.isNegative === isNegative).map(({ level }) => level)
    const limit = Math.max(0, ...levels) * amplitudeFromDb(-highestDb)
    return middleOf(levels.filter((level) => level >= limit))
  })
  return amplitudeDb(sides.every((side) => side > 0) ? (sides[0]! + sides[1]!) / 2 : Math.max(...sides))
}

function middleOf(values: readonly number[]): number {
  const sorted = [...values].sort((one, other) => one - other)
  return sorted[Math.floor(sorted.length / 2)] ?? 0
}

/** Corner frequencies of coupling capacitors that are tried, Hz; lower ones leave the tops practically flat. */
const cornersHz = [22, 33, 50, 75, 110, 165] as const

/** Undoes a first-order high-pass: the signal before a coupling capacitor, except its DC. */
function beforeCapacitor(samples: Float32Array, cornerHz: number, rateHz: number): Float32Array {
  const keep = Math.exp((-2 * Math.PI * cornerHz) / rateHz)
  const out = new Float32Array(samples.length)
  let value = 0
  let before = 0
  let sum = 0
  for (let index = 0; index < samples.length; index++) {
    value += samples[index]! / keep - before
    before = samples[index]!
    out[index] = value
    sum += value
  }
  const mean = sum / Math.max(1, samples.length)
  return out.map((sample) => sample - mean)
}

/** Crests as they are after a capacitor was undone. */
interface Counted {
  crests: CrestCounter
  look: Look
  cornerHz: number
}
const widest = (all: readonly Counted[]): Counted | undefined =>
  all.reduce<Counted | undefined>(
    (most, each) => (most && most.look.wider >= each.look.wider ? most : each),
    undefined,
  )

/** Tops that sag become flat when the right capacitor is undone, and only then. */
function sagOf(excerpts: readonly Excerpt[], channel: number, rateHz: number): Pressed | undefined {
  const counted = (cornerHz: number): Counted[] => {
    const crests = new CrestCounter(rateHz)
    for (const { channels } of excerpts)
      crests.push(cornerHz ? beforeCapacitor(channels[channel]!, cornerHz, rateHz) : channels[channel]!)
    const look = lookAt(crests, rateHz)
    return look ? [{ crests, look, cornerHz }] : []
  }
  const asItIs = counted(0)[0]?.look.wider ?? 0
  const coarse = widest(cornersHz.flatMap(counted))
  if (!coarse || !isPressed(coarse.look) || coarse.look.wider < Math.max(asItIs, 0.4) + sagGain)
    return undefined
  const finer = [0.8, 0.9, 1.12, 1.25].flatMap((share) => counted(share * coarse.cornerHz))
  const best = widest([coarse, ...finer]) ?? coarse
  // in excerpts laid one behind the other a place is found again by its excerpt
  const length = excerpts[0]!.channels[channel]!.length
  const tops = best.crests.tops(highestDb).map((top) => {
    const excerpt = excerpts[Math.min(excerpts.length - 1, Math.floor(top.frame / length))]!
    return { ...top, frame: excerpt.frame + (top.frame % length) }
  })
  return {
    shape: 'sagging',
    ceilingDbfs: sidesDb(best.crests.tops(sidesApartDb)),
    ...rangesOf(tops, 'sagging', rateHz, confidenceOf(coarse.look)),
  }
}

const knees = [1.5, 2, 2.5, 3.5, 5, 8] as const
/** A bend as y = x / (1 + x^p)^(1/p) with its limit at 1; solved for x. */
const unbent = (y: number, knee: number): number => y / (1 - Math.min(0.999999, y) ** knee) ** (1 / knee)

/** How much longer a bent sine dwells at its top, given its highest value as a share of the limit. */
function dwellAfter(bend: number, knee: number): number {
  const top = unbent(bend, knee)
  const wide = (share: number) => Math.acos(unbent(share * bend, knee) / top)
  return wide(0.93) / wide(0.5) / (Math.acos(0.93) / Math.acos(0.5))
}

/** Most crests counted as independent in a bin: those of one vowel are alike. */
const mostCounted = 30

/**
 * The limit towards which crests are bent, from how long those of each level dwell: the mean over all bends, each with the
 * weight that the crests give it. The best one alone is a hard bend too near, which explains a few crests by chance.
 */
function bentCeilingDb(crests: CrestCounter, { usual, highestDb: top }: Look): number {
  const stepDb = 0.5
  const variance = Math.max(0.05, crests.under(...usualDb).spread / usual) ** 2
  const seen = Array.from({ length: 12 }, (_, step) => ({
    underDb: (step + 0.5) * stepDb,
    ...crests.under(step * stepDb, (step + 1) * stepDb),
  })).filter(({ count }) => count > 0)
  const bends: { error: number; overDb: number }[] = []
  for (const knee of knees)
    for (let overDb = 0.05; overDb <= 4; overDb += 0.1) {
      let error = 0
      for (const { underDb, dwell, count } of seen) {
        const expected = dwellAfter(amplitudeFromDb(-overDb - underDb), knee)
        error += Math.min(count, mostCounted) * (dwell / usual - expected) ** 2
      }
      bends.push({ error, overDb })
    }
  const least = Math.min(...bends.map(({ error }) => error))
  let [sum, weights] = [0, 0]
  for (const { error, overDb } of bends) {
    const weight = Math.exp((least - error) / (2 * variance))
    sum += weight * overDb
    weights += weight
  }
  return top + sum / weights
}
