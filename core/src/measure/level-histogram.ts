import { powerDb } from '../units'

const lowestDb = -180
const binsPerDb = 10
const bins = 200 * binsPerDb

/** Blocks within this of the quietest count as pause, dB. */
const pauseSpreadDb = 6
/** Share of blocks that define the quietest level, so that a single odd block does not. */
const quietestShare = 0.05
/** Blocks this far above the pauses are activity, dB. */
const activityOverPauseDb = 10
/** Activity in fewer than this share of the blocks is a click, not a voice. */
const leastActivity = 0.02
/** Activity further than this from its median is a strike or a breath, not the voice, dB: the gate of ITU-T P.56. */
const activityGateDb = 15.9

/** Speech level that faults are compared with in a clip without sound, dBFS(A). */
export const usualSpeechDbfs = -30

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

  /**
   * Level of speech while it lasts, level of the pauses, and whether there were any; in dB of the mean power.
   * Speech is the mean of what is active and within the gate of its own median, so that single strikes, however
   * loud, do not pass for the voice.
   */
  read(): { activeDb: number; pauseDb: number; pauses: boolean } | undefined {
    if (this.total === 0) return undefined
    const quietestDb = this.levelBelow(this.total * quietestShare, -Infinity)
    const pauseDb = this.mean(-Infinity, quietestDb + pauseSpreadDb).db
    const activeFromDb = pauseDb + activityOverPauseDb
    const { count } = this.mean(activeFromDb, Infinity)
    if (count < this.total * leastActivity)
      return { activeDb: this.mean(-Infinity, Infinity).db, pauseDb, pauses: false }
    const medianDb = this.levelBelow(count / 2, activeFromDb)
    const gateDb = Math.max(activeFromDb, medianDb - activityGateDb)
    return { activeDb: this.mean(gateDb, medianDb + activityGateDb).db, pauseDb, pauses: true }
  }

  /** The level under which a number of blocks lie, counted from a level up. */
  private levelBelow(wanted: number, fromDb: number): number {
    let seen = 0
    let db = lowestDb
    for (let bin = 0; bin < bins; bin++) {
      db = lowestDb + bin / binsPerDb
      if (db >= fromDb && (seen += this.counts[bin]!) >= Math.max(1, wanted)) break
    }
    return db
  }

  private mean(fromDb: number, toDb: number): { db: number; count: number } {
    let power = 0
    let count = 0
    for (let bin = 0; bin < bins; bin++) {
      const db = lowestDb + bin / binsPerDb
      if (db < fromDb || db > toDb) continue
      power += this.powers[bin]!
      count += this.counts[bin]!
    }
    return { db: powerDb(power / count), count }
  }
}
