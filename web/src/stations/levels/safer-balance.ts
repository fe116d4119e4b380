import type { Balance } from '@iron-hush/core/balance'
import { reason } from '@iron-hush/core/findings'
import { type Gear, type Patch, Refusal, known } from '@iron-hush/core/model'
import { type Job, startSafer } from '../../workers/compute'
import { chanceLimits } from './odds'

/** Monte Carlo draws for a chance that is asked for. */
const saferDraws = 2000

/** Settings that keep clipping rarer than a limit, as a proposal of Balance. Refused if there are none. */
export function startSaferBalance(patch: Patch, gear: Gear[], limit: number): Job<Balance> {
  const { result, cancel } = startSafer(patch, gear, limit, saferDraws, 1)
  const { words } = known(
    chanceLimits.find((each) => each.limit === limit),
    `chance limit ${limit}`,
  )
  return {
    cancel,
    result: result.then((safer) => {
      if (!safer)
        throw new Refusal(
          `No setting keeps clipping rarer than ${words} here. Ask Balance what would cure it, or use a microphone that takes more level.`,
        )
      const ours = safer.odds.tracks.filter(({ automatic }) => !automatic)
      const worst = Math.max(0, ...ours.map(({ clipping }) => clipping))
      const rare = reason('safer', {
        marginDb: safer.marginDb,
        clipping: worst,
        leavesOutAutomatic: ours.length < safer.odds.tracks.length,
      })
      return { ...safer.balance, reasons: [rare, ...safer.balance.reasons] }
    }),
  }
}
