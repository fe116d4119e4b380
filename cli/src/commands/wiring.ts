import { wiringOf } from '@iron-hush/core/circuit'
import { levelsOfPatch } from '@iron-hush/core/levels'
import { wiringAnswer } from '@iron-hush/core/report'
import { readPatch } from '../input'
import type { Options } from '../options'
import { wiringText } from '../text'
import type { Shell } from '../shell'

/** Prints what plugs into what, and what that does to the signal. */
export function wiringCommand(shell: Shell): void {
  const { answer, onPatch } = shell
  onPatch('wiring', 'what plugs into what, and what that does to the signal').action(
    async (file: string, options: Options) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      answer(wiringAnswer(patch, wiringOf(patch, shelf), levelsOfPatch(patch, shelf)), options, wiringText)
    },
  )
}
