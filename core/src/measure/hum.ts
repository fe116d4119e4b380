import { powerDb } from '../units'
import { quantile } from './level-series'

const windowS = 1
/** Of a long clip one window in four will do. */
const allWindows = 120
const harmonics = 8
const mainsHz = [50, 60] as const
/** Where there is noise and no hum, Hz beside a line. */
const besideHz = [-6.5, -4.5, 4.5, 6.5] as const
/** A line stands so far over what lies beside it, dB, and holds its level within so much. */
const overBesideDb = 9
/** Once hum is found, softer lines of it count too. */
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

  constructor(private readonly rateHz: number) {
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
    for (const family of this.families)
      for (const line of family) {
        line.power.push(this.powerAt(line.hz))
        line.under.push(this.powerAt(line.hz - 1))
        line.over.push(this.powerAt(line.hz + 1))
        line.beside.push(Math.max(...besideHz.map((by) => this.powerAt(line.hz + by))))
      }
  }

  /** Square of the amplitude at a frequency (Goertzel 1958). */
  private powerAt(hz: number): number {
    const turn = 2 * Math.cos((2 * Math.PI * hz) / this.rateHz)
    let [one, two] = [0, 0]
    for (let index = 0; index < this.size; index++) {
      const next = this.windowed[index]! + turn * one - two
      two = one
      one = next
    }
    // the window's mean is 1, and half of a real wave's amplitude is at each of its two frequencies
    return 4 * (one * one + two * two - turn * one * two)
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

interface Heard {
  hz: number
  levelDbfs: number
  overDb: number
}

const strong = (lines: readonly Heard[]): Heard[] => lines.filter(({ overDb }) => overDb > overBesideDb)
const isHum = (lines: readonly Heard[], mains: number): boolean =>
  lines.some(({ hz }) => hz <= 3 * mains) &&
  (lines.length > 1 || lines.some(({ overDb }) => overDb > aloneOverBesideDb))

/** A line that is there all the time; undefined where it is not. */
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
