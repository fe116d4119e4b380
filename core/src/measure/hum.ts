import { powerDb } from '../units'
import { quantile } from './level-series'

const windowS = 1
/** Windows up to which all are analysed; of longer clips one in four. */
const allWindows = 120
const harmonics = 8
const mainsHz = [50, 60] as const
/** Where there is noise and no hum, Hz beside a line. */
const besideHz = [-6.5, -4.5, 4.5, 6.5] as const
/** Frequencies analysed for each line, relative to it, Hz: itself, 1 Hz below and above, and beside it. */
const aroundHz = [0, -1, 1, ...besideHz] as const
/** Frequencies computed side by side, so that none has to wait for its own last value. */
const together = 4
/** Least height of a hum line above what lies beside it, dB. */
const overBesideDb = 9
/** The same for further lines once hum is found, dB. */
const weakOverBesideDb = 4
const aloneOverBesideDb = 18
const steadyDb = 4

export interface Hum {
  mainsHz: number
  /** All harmonics together, RMS re a full-scale sine. */
  levelDbfs: number
  lines: { hz: number; levelDbfs: number }[]
  confidence: number
}

interface Line {
  hz: number
  /** Power at the line, beside it, and one Hz under and over it, a value for each window. */
  power: number[]
  beside: number[]
  under: number[]
  over: number[]
}

/**
 * Finds hum of the mains: lines at 50 or 60 Hz and their multiples that hold level and frequency for as long as the clip
 * lasts, heard in its quieter moments, where speech does not cover them. Wants a low rate, some 1 to 2.5 kHz.
 */
export class HumMeter {
  private readonly size: number
  private readonly held: Float64Array
  private readonly window: Float64Array
  private readonly windowed: Float64Array
  private filled = 0
  private windows = 0
  private readonly families: Line[][]
  /** Everything that is listened to, by twice the cosine of how far it turns from sample to sample. */
  private readonly turns: Float64Array

  constructor(rateHz: number) {
    this.size = 2 * Math.round((windowS * rateHz) / 2)
    this.held = new Float64Array(this.size)
    this.windowed = new Float64Array(this.size)
    this.window = Float64Array.from(
      { length: this.size },
      (_, index) => (1 - Math.cos((2 * Math.PI * (index + 0.5)) / this.size)) / this.size,
    )
    this.families = mainsHz.map((mains) =>
      Array.from({ length: harmonics }, (_, index) => ({
        hz: mains * (index + 1),
        power: [],
        beside: [],
        under: [],
        over: [],
      })).filter(({ hz }) => hz < 0.4 * rateHz),
    )
    const all = this.families.flat().flatMap(({ hz }) => aroundHz.map((by) => hz + by))
    this.turns = new Float64Array(together * Math.ceil(all.length / together))
    all.forEach((hz, index) => (this.turns[index] = 2 * Math.cos((2 * Math.PI * hz) / rateHz)))
  }

  push(samples: Float32Array): void {
    for (const sample of samples) {
      this.held[this.filled++] = sample
      if (this.filled < this.size) continue
      if (this.windows++ < allWindows || this.windows % 4 === 0) this.look()
      this.held.copyWithin(0, this.size / 2)
      this.filled = this.size / 2
    }
  }

  private look(): void {
    for (let index = 0; index < this.size; index++)
      this.windowed[index] = this.held[index]! * this.window[index]!
    const powers = this.powers()
    this.families.flat().forEach((line, index) => {
      const [at, under, over, ...beside] = powers.subarray(index * aroundHz.length)
      line.power.push(at!)
      line.under.push(under!)
      line.over.push(over!)
      line.beside.push(Math.max(...beside.slice(0, besideHz.length)))
    })
  }

  /** Squares of the amplitudes at all frequencies (Goertzel 1958). */
  private powers(): Float64Array {
    const { windowed, turns } = this
    const out = new Float64Array(turns.length)
    for (let first = 0; first < turns.length; first += together) {
      const a = turns[first]!
      const b = turns[first + 1]!
      const c = turns[first + 2]!
      const d = turns[first + 3]!
      let a1 = 0
      let a2 = 0
      let b1 = 0
      let b2 = 0
      let c1 = 0
      let c2 = 0
      let d1 = 0
      let d2 = 0
      for (let index = 0; index < windowed.length; index++) {
        const sample = windowed[index]!
        const a0 = sample - a2 + a * a1
        const b0 = sample - b2 + b * b1
        const c0 = sample - c2 + c * c1
        const d0 = sample - d2 + d * d1
        a2 = a1
        a1 = a0
        b2 = b1
        b1 = b0
        c2 = c1
        c1 = c0
        d2 = d1
        d1 = d0
      }
      out[first] = powerOf(a1, a2, a)
      out[first + 1] = powerOf(b1, b2, b)
      out[first + 2] = powerOf(c1, c2, c)
      out[first + 3] = powerOf(d1, d2, d)
    }
    return out
  }

  finish(): Hum | undefined {
    const found = this.families
      .map((family, index) => ({
        mainsHz: mainsHz[index]!,
        lines: family.flatMap((line) => heard(line) ?? []),
      }))
      .filter(({ lines, mainsHz: mains }) => isHum(strong(lines), mains))
      .map(({ lines, mainsHz: mains }) => ({
        mainsHz: mains,
        levelDbfs: powerDb(lines.reduce((sum, { levelDbfs }) => sum + 10 ** (levelDbfs / 10), 0)),
        lines: lines.map(({ hz, levelDbfs }) => ({ hz, levelDbfs })),
        confidence: Math.min(0.99, 1 - Math.exp(-lines.reduce((sum, { overDb }) => sum + overDb, 0) / 15)),
      }))
    return found.sort((one, other) => other.levelDbfs - one.levelDbfs)[0]
  }
}

/** The window's mean is 1, and half of a real wave's amplitude is at each of its two frequencies. */
const powerOf = (one: number, two: number, turn: number): number =>
  4 * (one * one + two * two - turn * one * two)

interface Heard {
  hz: number
  levelDbfs: number
  overDb: number
}

const strong = (lines: readonly Heard[]): Heard[] => lines.filter(({ overDb }) => overDb > overBesideDb)
const isHum = (lines: readonly Heard[], mains: number): boolean =>
  lines.some(({ hz }) => hz <= 3 * mains) &&
  (lines.length > 1 || lines.some(({ overDb }) => overDb > aloneOverBesideDb))

/** A line that is present all the time; undefined if it is not. */
function heard({ hz, power, beside, under, over }: Line): Heard | undefined {
  const quiet = quantile(beside, 0.4)
  const windows = beside.flatMap((value, index) => (value <= quiet ? [index] : []))
  if (windows.length < 2) return undefined
  const at = (list: readonly number[], share: number) =>
    powerDb(
      quantile(
        windows.map((index) => list[index]!),
        share,
      ),
    )
  const levelDbfs = at(power, 0.5)
  const overDb = levelDbfs - at(beside, 0.5)
  const isSteady = at(power, 0.8) - at(power, 0.2) < steadyDb
  // a tone beside the line leans to its side
  const lean = Math.abs(at(under, 0.5) - at(over, 0.5))
  return overDb > weakOverBesideDb && isSteady && lean < 6 ? { hz, levelDbfs, overDb } : undefined
}
