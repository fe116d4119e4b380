import { findWays, withoutDetours } from '@iron-hush/core/circuit'
import { circuitWords } from '@iron-hush/core/words'
import { linkBetween, readPatch, twoThings } from '../input'
import type { Options } from '../options'
import type { Shell } from '../shell'

/** Rows of cables and adapters that join two sockets. */
export function findWayCommand(shell: Shell): void {
  const { program, say } = shell
  program
    .command('find-way [patch.json]')
    .description('chains of cables and adapters that connect two sockets safely')
    .requiredOption('--from <box.port>', 'the output; without a patch thing.port, from the shelf')
    .requiredOption('--to <box.port>', 'the input, likewise')
    .option('--other-sockets', 'also over the other free sockets of the two boxes')
    .option('--json', 'print JSON')
    .option('--shelf <shelf.json>', 'a gear file to use instead of the shelf that ships with it')
    .action(
      async (
        file: string | undefined,
        options: Options & { from: string; to: string; otherSockets?: boolean },
      ) => {
        const { patch, shelf } = file
          ? await readPatch(file, options.shelf)
          : await twoThings(options.from, options.to, options.shelf)
        const link = linkBetween(patch, shelf, options.from, options.to)
        const ways = [
          ...withoutDetours(findWays(patch, link, shelf)),
          ...(options.otherSockets ? findWays(patch, link, shelf, { otherPorts: true }) : []),
        ]
        const list = ways.map(({ from, to, pieces, lossDb, missing, price, report }) => ({
          from: `${from.box}.${from.port}`,
          to: `${to.box}.${to.port}`,
          pieces: pieces.map(({ gear, reversed }) => (reversed ? `${gear.id} (reversed)` : gear.id)),
          lossDb,
          missing,
          price,
          findings: report.findings
            .filter(({ severity }) => severity !== 'note')
            .map((finding) => circuitWords(finding).what),
        }))
        if (options.json) say.log(JSON.stringify(list, null, 2))
        else
          for (const way of list)
            say.log(
              `${way.from} to ${way.to}: ${way.pieces.join(' + ') || '(straight in)'}   loses ${way.lossDb.toFixed(1)} dB${way.missing ? `, to buy: ${way.missing}` : ''}${way.findings.map((what) => `; ${what}`).join('')}`,
            )
        if (list.length === 0)
          say.error('No chain of up to four cables and adapters from the shelf connects these two safely.')
        shell.code = list.length ? 0 : 1
      },
    )
}
