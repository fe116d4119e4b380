import { Command } from 'commander'
import { atLeast } from '@iron-hush/core/findings'
import type { FindingAnswer } from '@iron-hush/core/model'
import own from '../package.json' with { type: 'json' }
import type { Options } from './options'

/** The environment of every command. */
export class Shell {
  /** Exit code: 0, 1 for a finding at or above harmful. */
  code = 0
  readonly program = new Command('hush')

  /** @param say where answers and complaints go */
  constructor(readonly say: Pick<Console, 'log' | 'error'>) {
    this.program
      .description(
        'Levels, balance and measurement of a sound chain, from the terminal. A file named - is read from standard input.',
      )
      .version(own.version, '-v, --version', 'print the release')
      .addHelpText('after', '\nEnds with 0, with 1 for a harmful finding, with 2 for bad input.')
      .exitOverride()
      .configureOutput({ writeErr: () => undefined, writeOut: (text) => say.log(text.trimEnd()) })
  }

  /** A command that reads a patch. */
  readonly onPatch = (name: string, does: string): Command =>
    this.program
      .command(`${name} <patch.json>`)
      .description(does)
      .option('--json', 'print the published JSON form')
      .option('--shelf <shelf.json>', 'a gear file to use instead of the shelf that ships with it')

  /** Progress of long work on standard error, only in a terminal. */
  progress(doing: string): { at: (share: number) => void; done: () => void } {
    const began = performance.now()
    let said = ''
    const write = (text: string) => process.stderr.isTTY && process.stderr.write(text)
    return {
      at(share) {
        const text = `${doing}: ${Math.round(share * 100)} %`
        if (text !== said && performance.now() - began > 500) write(`\r${(said = text)}`)
      },
      done: () => void (said && write(`\r${' '.repeat(said.length)}\r`)),
    }
  }

  /** Prints a result, and takes the exit code from its findings. */
  readonly answer = <T extends { findings: Pick<FindingAnswer, 'severity'>[] }>(
    result: T,
    options: Options,
    text: (result: T) => string,
  ): void => {
    this.say.log(options.json ? JSON.stringify(result, null, 2) : text(result))
    this.judge(result.findings)
  }
  /** Takes the exit code from findings. */
  judge(findings: readonly Pick<FindingAnswer, 'severity'>[]): void {
    this.code = findings.some(({ severity }) => atLeast(severity, 'harmful')) ? 1 : 0
  }
}
