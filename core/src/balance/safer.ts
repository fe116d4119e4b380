import { applyEdits } from '../edits'
import type { Patch, Shelf } from '../model'
import { type Balance, balance, settingsOf } from './balance'
import { type Odds, oddsOf } from './odds'

/** The least margin, in whole dB, whose balance keeps the chance of clipping of every recording under a limit. */
export interface SaferPlan {
  marginDb: number
  balance: Balance
  odds: Odds
}

const mostMarginDb = 24

/**
 * Settings that keep the chance of clipping of every recording under a limit: balance with ever more margin until they
 * do. Undefined when even the widest does not, or when told to stop. Recordings whose level automatic gain sets are left
 * out: no margin helps them.
 *
 * @param limit chance of clipping that no recording may pass, 0 to 1
 */
export function saferPlan(
  patch: Patch,
  shelf: Shelf,
  limit: number,
  draws: number,
  seed: number,
  cancelled: () => boolean = () => false,
): SaferPlan | undefined {
  for (let marginDb = Math.ceil(patch.plan.marginDb); marginDb <= mostMarginDb; marginDb++) {
    const found = balance({ ...patch, plan: { ...patch.plan, marginDb } }, shelf, cancelled)
    if (!found) return undefined
    const next = applyEdits(patch, settingsOf(found.changes), shelf)
    const odds = oddsOf(next, shelf, draws, seed)
    if (odds.tracks.every(({ automatic, clipping }) => automatic || clipping <= limit))
      return { marginDb, balance: found, odds }
  }
  return undefined
}
