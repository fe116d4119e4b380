// Command-line options: read, explained with --help, or refused in a sentence.
import { parseArgs } from 'node:util'
import { endWith, Trouble } from './say.mjs'

/**
 * Options and names after a command. With --help it prints how the command is used and ends; so it does, with code 1,
 * where an option is unknown or where more names are given than it takes.
 * @template {NonNullable<import('node:util').ParseArgsConfig['options']>} O
 * @param {string} use as in "npm run backup [FILE]"
 * @param {O} options
 * @param {number} [mostNames]
 * @returns {ReturnType<typeof parseArgs<{ options: O, strict: true, allowPositionals: true }>>}
 */
export function readOptions(use, options, mostNames = 0) {
  if (process.argv.slice(2).some((each) => each === '--help' || each === '-h')) {
    console.log(`Use: ${use}`)
    process.exit(0)
  }
  try {
    const read = parseArgs({ options, strict: true, allowPositionals: true })
    const [odd] = read.positionals.slice(mostNames)
    if (odd !== undefined) throw new Error(`"${odd}" is one too many.`)
    return read
  } catch (error) {
    // only the first sentence: the rest is about names that begin with a hyphen
    const [why] = (error instanceof Error ? error.message : String(error)).split('. ')
    return endWith(new Trouble(`${why}\nUse: ${use}`))
  }
}
