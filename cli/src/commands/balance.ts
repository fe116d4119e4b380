import { Option } from 'commander'
import { balance, pricesOf } from '@iron-hush/core/balance'
import { Counting, PeakTarget, controlKey, known } from '@iron-hush/core/model'
import { balanceAnswer } from '@iron-hush/core/report'
import { worstRatioName } from '@iron-hush/core/words'
import { readPatch } from '../input'
import type { Options } from '../options'
import { balanceText } from '../text'
import type { Shell } from '../shell'

/** The best positions of all controls together. */
export function balanceCommand(shell: Shell): void {
  const { answer, onPatch } = shell
  onPatch('balance', 'the best positions of all controls together')
    .addOption(
      new Option(
        '--peak-target <target>',
        'where the loudest peaks should lie; as the patch says if left out',
      ).choices(PeakTarget.options),
    )
    .addOption(
      new Option('--counts <which>', 'which recording counts; as the patch says if left out').choices(
        Counting.options,
      ),
    )
    .action(async (file: string, options: Options & { peakTarget?: PeakTarget; counts?: Counting }) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const plan = {
        ...patch.plan,
        ...(options.peakTarget ? { peakTarget: options.peakTarget } : {}),
        ...(options.counts ? { counts: options.counts } : {}),
      }
      const asked = { ...patch, plan }
      const found = known(balance(asked, shelf), 'a balance that nobody cancels')
      const proposed = new Map(found.changes.map(({ part, control, to }) => [controlKey(part, control), to]))
      answer(balanceAnswer(asked, found, pricesOf(asked, shelf, proposed)), options, (each) =>
        balanceText(each, worstRatioName(patch.brief.sources)),
      )
    })
}
