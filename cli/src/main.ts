import { CommanderError } from 'commander'
import { adviseCommand } from './commands/advise'
import { balanceCommand } from './commands/balance'
import { curesCommand } from './commands/cures'
import { kitsCommand } from './commands/kits'
import { findWayCommand } from './commands/find-way'
import { levelsCommand } from './commands/levels'
import { lineUpCommand } from './commands/line-up'
import { measureCommand } from './commands/measure'
import { oddsCommand } from './commands/odds'
import { planCommand } from './commands/plan'
import { renderCommand } from './commands/render'
import { trialCommand } from './commands/trial'
import { wiringCommand } from './commands/wiring'
import { completion } from './completion'
import { Shell } from './shell'

const commands = [
  planCommand,
  levelsCommand,
  balanceCommand,
  curesCommand,
  kitsCommand,
  oddsCommand,
  renderCommand,
  wiringCommand,
  findWayCommand,
  adviseCommand,
  measureCommand,
  lineUpCommand,
  trialCommand,
]

/**
 * Runs a command line. Returns the exit code: 0, 1 for a finding at or above harmful, 2 for bad input.
 *
 * @param say where answers and complaints go
 */
export async function main(
  argv: readonly string[],
  say: Pick<Console, 'log' | 'error'> = console,
): Promise<number> {
  const shell = new Shell(say)
  for (const command of commands) command(shell)
  shell.program
    .command('completion <shell>')
    .description('a script that completes commands, options and files: bash or zsh')
    .action((name: string) => say.log(completion(shell.program, name)))
  // without arguments it prints its help
  if (argv.length <= 2) {
    shell.program.outputHelp()
    return 0
  }
  try {
    await shell.program.parseAsync(argv)
    return shell.code
  } catch (error) {
    if (error instanceof CommanderError && error.exitCode === 0) return 0
    say.error(error instanceof Error ? error.message.replace(/^error: /, '') : error)
    return 2
  }
}
