import { poorSpeechToNoiseDb } from '../levels'
import type { Planned } from './planned'

/** A box more must leave the voice this much clearer, dB. */
export const worthOfBoxDb = 3
const worthOfPieceDb = 0.5
/** A second recording on the way is worth as much, dB. */
const worthOfBackupDb = 1.5
/** With a drawback a microphone must be heard as much clearer: twice as loud. */
const worthOfNoDrawbackDb = 10
/** More than this nobody hears, dB. */
const clearDb = 45

/** What is wrong with a plan: its harmful findings, and noise as one more where it makes a recording hard to use, as two where it covers it. */
export const harmOf = ({ harms, worstDb }: Pick<Planned, 'harms' | 'worstDb'>): number =>
  harms + (worstDb < 0 ? 2 : worstDb < poorSpeechToNoiseDb ? 1 : 0)

/** A plan with its worst recording as it counts: less clear with each drawback. */
const asUsed = (plan: Planned): Planned => ({
  ...plan,
  worstDb: plan.worstDb - worthOfNoDrawbackDb * plan.drawbacks.length,
})

/**
 * What is alive first, then what does not distort, for no edit mends that, then what needs nobody, then what is owned, then
 * the clearest with the least on the way.
 */
export const byWorth = (one: Planned, other: Planned): number =>
  one.dead - other.dead ||
  one.tooHotDb - other.tooHotDb ||
  harmOf(asUsed(one)) - harmOf(asUsed(other)) ||
  one.missing.length - other.missing.length ||
  worthDb(asUsed(other)) - worthDb(asUsed(one))

export const worthDb = ({ worstDb, through, patch, backedUp }: Planned): number =>
  Math.min(worstDb, clearDb) +
  (backedUp ? worthOfBackupDb : 0) -
  worthOfBoxDb * through.length -
  worthOfPieceDb * patch.links.reduce((sum, { pieces }) => sum + pieces.length, 0)
