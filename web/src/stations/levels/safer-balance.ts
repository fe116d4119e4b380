import type { Balance } from '@iron-hush/core/balance'
import { type Gear, type Patch, Refusal } from '@iron-hush/core/model'
import { type Job, startSafer } from '../../workers/compute'
import { chanceLimits, chanceWords } from './odds'

/** Draws behind a chance that is asked for. */
const saferDraws = 2000

/** Settings that keep clipping rarer than a limit, as a proposal of Balance. Refused where there are none. */
export function startSaferBalance(patch: Patch, gear: Gear[], limit: number): Job<Balance> {
  const { result, cancel } = startSafer(patch, gear, limit, saferDraws, 1)
  const words = chanceLimits.find((each) => each.limit === limit)!.words
  return {
    cancel,
    result: result.then((safer) => {
      if (!safer)
        throw new Refusal(
          `No setting keeps clipping rarer than ${words} here. Ask Balance what would cure it, or take a microphone that stands more.`,
        )
      const ours = safer.odds.tracks.filter(({ automatic }) => !automatic)
      const worst = Math.max(0, ...ours.map(({ clipping }) => clipping))
      const besides = ours.length < safer.odds.tracks.length ? ' What automatic gain sets is left out.' : ''
      const reason = `With ${safer.marginDb} dB under every ceiling the worst recording clips in ${chanceWords(worst)}.${besides}`
      return { ...safer.balance, reasons: [reason, ...safer.balance.reasons] }
    }),
  }
}
