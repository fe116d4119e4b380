import { type MeasureAnswer, known, Refusal } from '@iron-hush/core/model'
import { measureClip } from '@iron-hush/core/measure'
import { findingsCsv, measureAnswer } from '@iron-hush/core/report'
import { clipsUnder, fileSource, nameOf } from '../input'
import type { Options } from '../options'
import { measureText } from '../text'
import type { Shell } from '../shell'

/** What was really recorded. */
export function measureCommand(shell: Shell): void {
  shell.program
    .command('measure <clips...>')
    .description('what was really recorded, and what is wrong in it; of a folder everything that holds sound')
    .option('--json', 'print the published JSON form: of several clips a list')
    .option('--csv', 'print a table: a line for each place of each finding')
    .action(async (given: string[], options: Options & { csv?: boolean }) => {
      const files = await clipsUnder(given)
      const answers: MeasureAnswer[] = []
      let refused = false
      for (const file of files) {
        const answer = await measured(shell, file).catch((error: unknown) => {
          // of several one is told of, and the others go on
          if (files.length === 1 || !(error instanceof Refusal)) throw error
          shell.say.error(error.message)
          refused = true
          return undefined
        })
        if (!answer) continue
        answers.push(answer)
        if (!options.json && !options.csv) shell.say.log(measureText(answer))
      }
      if (options.json) shell.say.log(JSON.stringify(files.length === 1 ? answers[0] : answers, null, 2))
      else if (options.csv) shell.say.log(findingsCsv(answers).trimEnd())
      shell.judge(answers.flatMap(({ findings }) => findings))
      if (refused) shell.code = 2
    })
}

async function measured(shell: Shell, file: string): Promise<MeasureAnswer> {
  const source = await fileSource(file)
  const progress = shell.progress(`reading ${nameOf(file)}`)
  try {
    const found = await measureClip(source, nameOf(file), { progress: progress.at })
    return measureAnswer(known(found, 'a measurement that nobody cancels'))
  } finally {
    progress.done()
    await source.close()
  }
}
