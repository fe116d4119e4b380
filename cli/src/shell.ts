import { Command } from 'commander'
import { atLeast } from '@iron-hush/core/findings'
import type { FindingAnswer } from '@iron-hush/core/model'
import type { Options } from './options'

/** What every command works with. */
export class Shell {
  /** Exit code: 0, 1 for a finding at or above harmful. */
  code = 0
  readonly program = new Command('hush')

  /** @param say where answers and complaints go */
  constructor(readonly say: Pick<Console, 'log' | 'error'>) {
    this.program
      .description('Levels, balance and measurement of a sound chain, from the terminal.')
      .exitOverride()
      .configureOutput({ writeErr: () => undefined, writeOut: (text) => say.log(text.trimEnd()) })
  }

  /** A command that reads a patch. */
  readonly onPatch = (name: string, does: string): Command =>
    this.program
      .command(`${name} <patch.json>`)
      .description(does)
      .option('--json', 'print the published JSON form')
      .option('--shelf <shelf.json>', 'gear to use in place of the shelf that ships')

  /** Prints a result, and takes the exit code from its findings. */
  readonly answer = <T extends { findings: Pick<FindingAnswer, 'severity'>[] }>(
    result: T,
    options: Options,
    text: (result: T) => string,
  ): void => {
    this.say.log(options.json ? JSON.stringify(result, null, 2) : text(result))
    this.code = result.findings.some(({ severity }) => atLeast(severity, 'harmful')) ? 1 : 0
  }
}
