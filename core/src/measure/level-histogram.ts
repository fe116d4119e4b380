import { powerDb } from '../units'

const lowestDb = -180
const binsPerDb = 10
const bins = 200 * binsPerDb

/** Blocks whose level lies this close over the quietest count as pause. */
const pauseSpreadDb = 6
/** Share of blocks taken as quietest, against a single freak block. */
const quietestShare = 0.05
/** The quietest must lie this far under speech to be called a pause. */
const pauseUnderSpeechDb = 10
/** Gate under the active level, after ITU-T P.56. */
const activityGateDb = 15.9

/** Powers of short blocks, sorted by level in bins of 0.1 dB: memory does not grow with length. */
export class LevelHistogram {
  private readonly counts = new Uint32Array(bins)
  private readonly powers = new Float64Array(bins)
  private total = 0

  add(power: number): void {
    if (power <= 0) return
    const bin = Math.floor((powerDb(power) - lowestDb) * binsPerDb)
    const held = Math.min(bins - 1, Math.max(0, bin))
    this.counts[held]!++
    this.powers[held]! += power
    this.total++
  }

  /** Level of speech while it lasts, the level of pauses, and whether there were any. In dB of the mean power. */
  read(): { activeDb: number; pauseDb: number; pauses: boolean } | undefined {
    if (this.total === 0) return undefined
    const activeDb = this.activeDb()
    let seen = 0
    let bin = 0
    while (bin < bins - 1 && (seen += this.counts[bin]!) < Math.max(1, this.total * quietestShare)) bin++
    const quietestDb = lowestDb + bin / binsPerDb
    const pauseDb = this.meanDb(lowestDb, quietestDb + pauseSpreadDb)
    return { activeDb, pauseDb, pauses: activeDb - pauseDb >= pauseUnderSpeechDb }
  }

  /** Mean of all blocks that lie no more than the gate under that mean; found by repeating. */
  private activeDb(): number {
    let level = this.meanDb(lowestDb, Infinity)
    for (let round = 0; round < 50; round++) {
      const next = this.meanDb(level - activityGateDb, Infinity)
      if (Math.abs(next - level) < 0.01) return next
      level = next
    }
    return level
  }

  private meanDb(fromDb: number, toDb: number): number {
    let power = 0
    let count = 0
    for (let bin = 0; bin < bins; bin++) {
      const db = lowestDb + bin / binsPerDb
      if (db < fromDb || db > toDb) continue
      power += this.powers[bin]!
      count += this.counts[bin]!
    }
    return powerDb(power / count)
  }
}
