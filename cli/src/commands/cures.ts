import { known } from '@iron-hush/core/model'
import { curesOf } from '@iron-hush/core/balance'
import { readPatch } from '../input'
import type { Options } from '../options'
import { cureWords, worstRatioName } from '@iron-hush/core/words'
import { cureText } from '../text'
import type { Shell } from '../shell'

/** Prints cures for a chain that no setting makes good. */
export function curesCommand(shell: Shell): void {
  const { say, onPatch } = shell
  onPatch('cures', 'what would fix a chain that no setting makes good, each fix balanced again').action(
    async (file: string, options: Options) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const ratio = worstRatioName(patch.brief.sources)
      const progress = shell.progress('trying cures')
      const cures = known(
        curesOf(patch, shelf, { progress: (share) => progress.at(share) }),
        'cures that nobody cancels',
      )
      progress.done()
      if (options.json)
        say.log(
          JSON.stringify(
            cures.map(({ thing, change, ...cure }) => ({
              what: cureWords(change),
              kind: change.kind,
              ...cure,
              thing: thing?.id,
            })),
            null,
            2,
          ),
        )
      else
        say.log(
          cures.map((cure) => cureText(cure, ratio)).join('\n') ||
            'Nothing on the shelf gains a decibel, and neither does relaxing any demand.',
        )
    },
  )
}
