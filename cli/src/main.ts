import path from 'node:path'
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander'
import { balance, curesOf, oddsOf, pricesOf, saferPlan } from '@iron-hush/core/balance'
import { findWays, wiringOf } from '@iron-hush/core/circuit'
import { atLeast, levelsOfPatch } from '@iron-hush/core/levels'
import { measureWav } from '@iron-hush/core/measure'
import { type FindingAnswer, Keeper, Refusal, School } from '@iron-hush/core/model'
import { balanceAnswer, levelsAnswer, measureAnswer, oddsAnswer, wiringAnswer } from '@iron-hush/core/report'
import { fileSource, linkBetween, readPatch, twoThings } from './input'
import { renderFiles } from './render-files'
import { balanceText, cureText, levelsText, measureText, oddsText, saferText, wiringText } from './text'

interface Options {
  json?: boolean
  shelf?: string
}

/** A whole number between bounds, for an option. */
const whole = (least: number, most: number) => (text: string) => {
  const value = Number(text)
  if (!Number.isInteger(value) || value < least || value > most)
    throw new InvalidArgumentError(`Use a whole number from ${least} to ${most}.`)
  return value
}

/** A chance between 0 and 1, for an option. */
const chance = (text: string) => {
  const value = Number(text)
  if (!(value > 0 && value < 1)) throw new InvalidArgumentError('Use a chance between 0 and 1, as 0.01.')
  return value
}

/**
 * Runs a command line. Returns the exit code: 0, 1 for a finding at or above harmful, 2 for bad input.
 *
 * @param say where answers and complaints go
 */
export async function main(
  argv: readonly string[],
  say: Pick<Console, 'log' | 'error'> = console,
): Promise<number> {
  let code = 0
  const answer = <T extends { findings: Pick<FindingAnswer, 'severity'>[] }>(
    result: T,
    options: Options,
    text: (result: T) => string,
  ) => {
    say.log(options.json ? JSON.stringify(result, null, 2) : text(result))
    code = result.findings.some(({ severity }) => atLeast(severity, 'harmful')) ? 1 : 0
  }
  const program = new Command('hush')
    .description('Levels, balance and measurement of a sound chain, from the terminal.')
    .exitOverride()
    .configureOutput({ writeErr: () => undefined, writeOut: (text) => say.log(text.trimEnd()) })
  const onPatch = (name: string, does: string) =>
    program
      .command(`${name} <patch.json>`)
      .description(does)
      .option('--json', 'print the published JSON form')
      .option('--shelf <shelf.json>', 'gear to use in place of the shelf that ships')

  onPatch('levels', 'every run of a patch as it is set').action(async (file: string, options: Options) => {
    const { patch, shelf } = await readPatch(file, options.shelf)
    answer(levelsAnswer(patch, levelsOfPatch(patch, shelf)), options, levelsText)
  })
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
  onPatch('cures', 'what would cure a chain that no setting makes good, each balanced anew').action(
    async (file: string, options: Options) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const cures = curesOf(patch, shelf)!
      if (options.json)
        say.log(
          JSON.stringify(
            cures.map(({ thing, ...cure }) => ({ ...cure, thing: thing?.id })),
            null,
            2,
          ),
        )
      else
        say.log(
          cures.map(cureText).join('\n') ||
            'Nothing on the shelf wins a decibel, and no demand given up does.',
        )
    },
  )
  onPatch('odds', 'chance of clipping and spread of speech-to-noise, by tolerances and voices')
    .option('--draws <number>', 'how many draws', whole(1, 1_000_000), 10_000)
    .option('--seed <number>', 'the same seed gives the same figures', whole(0, 2 ** 32 - 1), 1)
    .option('--under <chance>', 'settings that keep the chance of clipping under this, 0 to 1', chance)
    .action(async (file: string, options: Options & { draws: number; seed: number; under?: number }) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      if (options.under !== undefined) {
        const safer = saferPlan(patch, shelf, options.under, options.draws, options.seed)
        if (!safer) throw new Refusal(`No setting keeps clipping under ${options.under}. Ask hush cures.`)
        const { marginDb, balance: found, odds } = safer
        const told = { marginDb, changes: found.changes, odds: oddsAnswer(patch, odds) }
        say.log(options.json ? JSON.stringify(told, null, 2) : saferText(told))
        return
      }
      const odds = oddsAnswer(patch, oddsOf(patch, shelf, options.draws, options.seed))
      say.log(options.json ? JSON.stringify(odds, null, 2) : oddsText(odds))
    })
  program
    .command('render <patch.json>')
    .description('what every recording would contain, one WAV each')
    .requiredOption('--out <folder>', 'where the files go')
    .option('--seconds <number>', 'how long', whole(1, 3600), 30)
    .option('--seed <number>', 'the same seed gives the same samples', whole(0, 2 ** 32 - 1), 1)
    .option('--shelf <shelf.json>', 'gear to use in place of the shelf that ships')
    .option(
      '--radio-m <metres>',
      'how far radios are apart, a body between; they then drop out',
      whole(1, 5000),
    )
    .action(
      async (
        file: string,
        options: { out: string; seconds: number; seed: number; radioM?: number; shelf?: string },
      ) => {
        const { patch, shelf } = await readPatch(file, options.shelf)
        let stopped = false
        const stop = () => (stopped = true)
        process.once('SIGINT', stop)
        const files = await renderFiles(patch, shelf, {
          ...options,
          rateHz: 48_000,
          cancelled: () => stopped,
        })
        process.off('SIGINT', stop)
        if (stopped) {
          say.error('Stopped: nothing was written. Run it again for the whole.')
          code = 1
        }
        for (const name of files) say.log(name)
      },
    )
  onPatch('wiring', 'what plugs into what, and what comes of it').action(
    async (file: string, options: Options) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      answer(wiringAnswer(patch, wiringOf(patch, shelf), levelsOfPatch(patch, shelf)), options, wiringText)
    },
  )
  program
    .command('find-way [patch.json]')
    .description('rows of cables and adapters that join two sockets without harm')
    .requiredOption('--from <box.port>', 'the output; without a patch thing.port, from the shelf')
    .requiredOption('--to <box.port>', 'the input, likewise')
    .option('--other-sockets', 'also over the other free sockets of the two boxes')
    .option('--json', 'print JSON')
    .option('--shelf <shelf.json>', 'gear to use in place of the shelf that ships')
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
          ...findWays(patch, link, shelf),
          ...(options.otherSockets ? findWays(patch, link, shelf, { otherPorts: true }) : []),
        ]
        const list = ways.map(({ from, to, pieces, lossDb, missing, price }) => ({
          from: `${from.box}.${from.port}`,
          to: `${to.box}.${to.port}`,
          pieces: pieces.map(({ gear, turned }) => (turned ? `${gear.id} (turned)` : gear.id)),
          lossDb,
          missing,
          price,
        }))
        if (options.json) say.log(JSON.stringify(list, null, 2))
        else
          for (const way of list)
            say.log(
              `${way.from} to ${way.to}: ${way.pieces.join(' + ') || '(straight in)'}   loses ${way.lossDb.toFixed(1)} dB${way.missing ? `, to buy: ${way.missing}` : ''}`,
            )
        if (list.length === 0)
          say.error('No row of up to four pieces from the shelf joins these two without harm.')
        code = list.length ? 0 : 1
      },
    )
  program
    .command('measure <clip.wav>')
    .description('what was really recorded')
    .option('--json', 'print the published JSON form')
    .action(async (file: string, options: Options) => {
      const source = await fileSource(file)
      try {
        answer(measureAnswer((await measureWav(source, path.basename(file)))!), options, measureText)
      } finally {
        await source.close()
      }
    })

  try {
    await program.parseAsync(argv)
    return code
  } catch (error) {
    if (error instanceof CommanderError && error.exitCode === 0) return 0
    say.error(error instanceof Error ? error.message.replace(/^error: /, '') : error)
    return 2
  }
}
