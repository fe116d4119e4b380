import { oddsOf, saferPlan } from '@iron-hush/core/balance'
import { Refusal } from '@iron-hush/core/model'
import { oddsAnswer } from '@iron-hush/core/report'
import { worstRatioName } from '@iron-hush/core/words'
import { readPatch } from '../input'
import { chance, type Options, whole } from '../options'
import { oddsText, saferText } from '../text'
import type { Shell } from '../shell'

/** Chances by tolerances and voices, and settings that keep clipping rare. */
export function oddsCommand(shell: Shell): void {
  const { say, onPatch } = shell
  onPatch('odds', 'chance of clipping and spread of the ratio to the noise, by tolerances and voices')
    .option('--draws <number>', 'how many draws', whole(1, 1_000_000), 10_000)
    .option('--seed <number>', 'the same seed gives the same figures', whole(0, 2 ** 32 - 1), 1)
    .option('--under <chance>', 'settings that keep the chance of clipping under this, 0 to 1', chance)
    .action(async (file: string, options: Options & { draws: number; seed: number; under?: number }) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const ratio = worstRatioName(patch.brief.sources)
      if (options.under !== undefined) {
        const safer = saferPlan(patch, shelf, options.under, options.draws, options.seed)
        if (!safer) throw new Refusal(`No setting keeps clipping under ${options.under}. Ask hush cures.`)
        const { marginDb, balance: found, odds } = safer
        const answer = { marginDb, changes: found.changes, odds: oddsAnswer(patch, odds) }
        say.log(options.json ? JSON.stringify(answer, null, 2) : saferText(answer, ratio))
        return
      }
      const odds = oddsAnswer(patch, oddsOf(patch, shelf, options.draws, options.seed))
      say.log(options.json ? JSON.stringify(odds, null, 2) : oddsText(odds, ratio))
    })
}
