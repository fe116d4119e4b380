import { readPatch } from '../input'
import { renderFiles } from '../render-files'
import { whole } from '../options'
import type { Shell } from '../shell'

/** What every recording would contain, one WAV each. */
export function renderCommand(shell: Shell): void {
  const { program, say } = shell
  program
    .command('render <patch.json>')
    .description('what every recording would contain, one WAV each')
    .requiredOption('--out <folder>', 'where the files go')
    .option('--seconds <number>', 'how long', whole(1, 3600), 30)
    .option('--seed <number>', 'the same seed gives the same samples', whole(0, 2 ** 32 - 1), 1)
    .option('--shelf <shelf.json>', 'a gear file to use instead of the shelf that ships with it')
    .option(
      '--radio-m <metres>',
      'distance between the radios with a body in between; they then drop out',
      whole(1, 5000),
    )
    .action(
      async (
        file: string,
        options: { out: string; seconds: number; seed: number; radioM?: number; shelf?: string },
      ) => {
        const { patch, shelf } = await readPatch(file, options.shelf)
        const progress = shell.progress('rendering')
        let stopped = false
        const stop = () => (stopped = true)
        process.once('SIGINT', stop)
        const files = await renderFiles(patch, shelf, {
          ...options,
          rateHz: 48_000,
          cancelled: () => stopped,
          progress: (share) => progress.at(share),
        })
        progress.done()
        process.off('SIGINT', stop)
        if (stopped) {
          say.error('Stopped: nothing was written. Run it again for all of it.')
          shell.code = 1
        }
        for (const name of files) say.log(name)
      },
    )
}
