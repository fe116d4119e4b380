import type { Command } from 'commander'
import { Refusal } from '@iron-hush/core/model'

/** Names of the commands, and of the options of each, as words. */
function wordsOf(program: Command): [command: string, options: string][] {
  return program.commands.map((command) => [
    command.name(),
    command.options.flatMap(({ long, short }) => [long, short].filter(Boolean)).join(' '),
  ])
}

/** A script for a shell that completes commands, their options and files. */
export function completion(program: Command, shell: string): string {
  const words = wordsOf(program)
  const names = words.map(([name]) => name).join(' ')
  if (shell === 'bash')
    return [
      '_hush() {',
      '  local word="${COMP_WORDS[COMP_CWORD]}" options=""',
      `  if [ "$COMP_CWORD" -eq 1 ]; then COMPREPLY=($(compgen -W "${names} --help --version" -- "$word")); return; fi`,
      '  case "${COMP_WORDS[1]}" in',
      ...words.map(([name, options]) => `    ${name}) options="${options} --help" ;;`),
      '  esac',
      '  if [[ "$word" == -* ]]; then COMPREPLY=($(compgen -W "$options" -- "$word"))',
      '  else COMPREPLY=($(compgen -f -- "$word")); fi',
      '}',
      'complete -o filenames -F _hush hush ./hush',
    ].join('\n')
  if (shell === 'zsh')
    return [
      '#compdef hush',
      '_hush() {',
      `  if (( CURRENT == 2 )); then compadd ${names} --help --version; return; fi`,
      '  local -a options',
      '  case "$words[2]" in',
      ...words.map(([name, options]) => `    ${name}) options=(${options} --help) ;;`),
      '  esac',
      '  if [[ "$PREFIX" == -* ]]; then compadd -- $options; else _files; fi',
      '}',
      'compdef _hush hush ./hush',
    ].join('\n')
  throw new Refusal(`"${shell}" was refused: completion is written for bash and zsh.`)
}
