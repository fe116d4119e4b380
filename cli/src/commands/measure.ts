import { type MeasureAnswer, known, Refusal } from '@iron-hush/core/model'
import { recordingOfClip } from '@iron-hush/core/advice'
import { channelsOf, levelsOfPatch } from '@iron-hush/core/levels'
import { measureClip } from '@iron-hush/core/measure'
import { findingsCsv, measureAnswer, type PlanOfClip } from '@iron-hush/core/report'
import { beginHelper } from '../helper'
import { clipsUnder, fileSource, nameOf, readPatch } from '../input'
import type { Options } from '../options'
import { measureText } from '../text'
import type { Shell } from '../shell'

/** Prints what was really recorded. */
export function measureCommand(shell: Shell): void {
  shell.program
    .command('measure <clips...>')
    .description('what was really recorded and what is wrong with it; of a folder, every sound file in it')
    .option('--json', 'print the published JSON form: of several clips a list')
    .option(
      '--against <patch.json>',
      'compare it with the plan of a scene, and say what explains the difference',
    )
    .option('--recording <box.track>', 'which recording of the scene it is; by its name if left out')
    .option('--csv', 'print a table: a line for each place of each finding')
    .action(async (given: string[], options: MeasureOptions) => {
      const files = await clipsUnder(given)
      const plan = await planFor(options)
      const answers: MeasureAnswer[] = []
      let refused = false
      for (const file of files) {
        const answer = await measured(shell, file, plan).catch((error: unknown) => {
          // of several, one is reported and the others go on
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

interface MeasureOptions extends Options {
  csv?: boolean
  against?: string
  recording?: string
}
type PlanFor = (clip: string, channelNames?: readonly string[]) => PlanOfClip | undefined

/** The scene that clips are held against, and which of its recordings each is. */
async function planFor({ against, recording, shelf: shelfFile }: MeasureOptions): Promise<PlanFor> {
  if (against === undefined) {
    if (recording !== undefined)
      throw new Refusal(
        '--recording says which recording of a scene a clip is: give the scene with --against.',
      )
    return () => undefined
  }
  const { patch, shelf } = await readPatch(against, shelfFile)
  const channels = channelsOf(levelsOfPatch(patch, shelf))
  const offered = channels.map(({ id, name }) => `${id} (${name})`).join('; ')
  if (recording !== undefined && !channels.some(({ id }) => id === recording))
    throw new Refusal(`"${recording}" is not a recording of ${patch.name}. There are: ${offered}.`)
  return (clip, channelNames) => {
    const found = recording ?? recordingOfClip(clip, channels, channelNames)
    if (found === undefined)
      throw new Refusal(
        `${clip}: its name does not match a recording of ${patch.name}. Give one with --recording: ${offered}.`,
      )
    return { patch, shelf, recording: found }
  }
}

async function measured(shell: Shell, file: string, plan: PlanFor): Promise<MeasureAnswer> {
  // a name that says no recording is refused before anything is read
  plan(nameOf(file))
  const source = await fileSource(file)
  const progress = shell.progress(`reading ${nameOf(file)}`)
  try {
    const found = await measureClip(source, nameOf(file), { progress: progress.at, helper: beginHelper })
    const measurement = known(found, 'a measurement that nobody cancels')
    return measureAnswer(measurement, plan(nameOf(file), measurement.stream.channelNames))
  } finally {
    progress.done()
    await source.close()
  }
}
