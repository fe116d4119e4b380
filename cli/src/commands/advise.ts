import { deadControls, offersForLink, preflightOf, severityOf } from '@iron-hush/core/advice'
import { wiringOf } from '@iron-hush/core/circuit'
import { levelsOfPatch } from '@iron-hush/core/levels'
import { Refusal } from '@iron-hush/core/model'
import { outcomeWords, preflightWords } from '@iron-hush/core/words'
import { readPatch } from '../input'
import type { Options } from '../options'
import type { Shell } from '../shell'

/** Controls without effect, what to do before the first take, and what could go into a link. */
export function adviseCommand({ onPatch, say }: Shell): void {
  onPatch('advise', 'controls without effect, what to do before the first take, what could go into a link')
    .option('--link <id>', 'a link of the patch: each piece that fits, and what it would bring')
    .action(async (file: string, options: Options & { link?: string }) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const levels = levelsOfPatch(patch, shelf)
      const link = patch.links.find(({ id }) => id === options.link)
      if (options.link !== undefined && !link)
        throw new Refusal(
          `There is no link "${options.link}" in this patch; it has ${patch.links.map(({ id }) => id).join(', ')}.`,
        )
      const advice = {
        withoutEffect: deadControls(patch, shelf, levels),
        beforeTheFirstTake: preflightOf(patch, shelf, levels.runs, wiringOf(patch, shelf)).map(
          preflightWords,
        ),
        offers: link
          ? offersForLink(patch, link, shelf).map(({ gear, outcome, instead }) => ({
              gear: gear.id,
              instead,
              severity: severityOf(outcome),
              brings: outcomeWords(outcome),
            }))
          : undefined,
      }
      if (options.json) return say.log(JSON.stringify(advice, null, 2))
      if (advice.withoutEffect.length) say.log(`No effect here: ${advice.withoutEffect.join('; ')}.`)
      say.log('Before the first take:')
      for (const line of advice.beforeTheFirstTake) say.log(`  ${line}`)
      for (const { gear, instead, brings } of advice.offers ?? [])
        say.log(`${gear}${instead ? ` instead of ${instead}` : ''}: ${brings}`)
    })
}
