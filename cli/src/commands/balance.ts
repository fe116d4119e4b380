import { Option } from 'commander'
import { balance, pricesOf } from '@iron-hush/core/balance'
import { Keeper, School } from '@iron-hush/core/model'
import { balanceAnswer } from '@iron-hush/core/report'
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
        '--school <school>',
        'where the loudest peaks should lie; as the patch says if left out',
      ).choices(School.options),
    )
    .addOption(
      new Option('--keeper <keeper>', 'which recording counts; as the patch says if left out').choices(
        Keeper.options,
      ),
    )
    .action(async (file: string, options: Options & { school?: School; keeper?: Keeper }) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const plan = {
        ...patch.plan,
        ...(options.school ? { school: options.school } : {}),
        ...(options.keeper ? { keeper: options.keeper } : {}),
      }
      const asked = { ...patch, plan }
      const found = balance(asked, shelf)!
      const proposed = new Map(found.changes.map(({ part, control, to }) => [`${part}.${control}`, to]))
      answer(balanceAnswer(asked, found, pricesOf(asked, shelf, proposed)), options, balanceText)
    })
}
