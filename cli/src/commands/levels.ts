import { levelsOfPatch } from '@iron-hush/core/levels'
import { levelsAnswer } from '@iron-hush/core/report'
import { readPatch } from '../input'
import type { Options } from '../options'
import { levelsText } from '../text'
import type { Shell } from '../shell'

/** Every run of a patch as it is set. */
export function levelsCommand(shell: Shell): void {
  const { answer, onPatch } = shell
  onPatch('levels', 'levels of every run of a patch, as it is set').action(
    async (file: string, options: Options) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      answer(levelsAnswer(patch, levelsOfPatch(patch, shelf)), options, levelsText)
    },
  )
}
