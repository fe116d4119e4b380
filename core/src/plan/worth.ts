import { poorSpeechToNoiseDb } from '../levels'
import type { Planned } from './planned'

/** Improvement in speech-to-noise that justifies an extra box, dB. */
export const worthOfBoxDb = 3
const worthOfPieceDb = 0.5
/** What a second recording on the way is worth, dB of speech-to-noise. */
const worthOfBackupDb = 1.5
/** What having no drawback is worth, dB of speech-to-noise: twice as loud. */
const worthOfNoDrawbackDb = 10
/** Speech-to-noise above which nobody hears a difference, dB. */
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
