import { known } from '@iron-hush/core/model'
import { measureClip } from '@iron-hush/core/measure'
import { measureAnswer } from '@iron-hush/core/report'
import { fileSource, nameOf } from '../input'
import type { Options } from '../options'
import { measureText } from '../text'
import type { Shell } from '../shell'

/** What was really recorded. */
export function measureCommand(shell: Shell): void {
  const { program, answer } = shell
  program
    .command('measure <clip>')
    .description('what was really recorded')
    .option('--json', 'print the published JSON form')
    .action(async (file: string, options: Options) => {
      const source = await fileSource(file)
      const progress = shell.progress(`reading ${nameOf(file)}`)
      try {
        const measured = await measureClip(source, nameOf(file), { progress: progress.at })
        answer(measureAnswer(known(measured, 'a measurement that nobody cancels')), options, measureText)
      } finally {
        progress.done()
        await source.close()
      }
    })
}
