// Type check, lint, formatting, import directions, unused code.
import path from 'node:path'
import { run } from './run.mjs'
import { packageCommand, root } from './packages.mjs'

/** @type {[name: string, command: string, args: string[]][]} */
const checks = [
  ['types of the page', process.execPath, ['tools/check-page.mjs']],
  // types of core without DOM and Node, those of plain scripts from their comments
  [
    'lint and types',
    'oxlint',
    ['core', 'server', 'cli', 'e2e', 'tools', 'vitest.config.ts', '--type-check', '--deny-warnings'],
  ],
  ['lint of the page', 'oxlint', ['web', '--deny-warnings']],
  ['lint of templates', 'eslint', ['web/src/**/*.vue', '--max-warnings', '0']],
  ['formatting', 'oxfmt', ['--check', '.']],
  [
    'import directions',
    'depcruise',
    ['--config', '.dependency-cruiser.cjs', 'core/src', 'server/src', 'web/src', 'cli/src'],
  ],
  ['unused code', 'knip', []],
  ['published schemas', 'tsx', ['tools/schemas.ts', '--check']],
]

let failed = 0
const waiting = [...checks]
/** Two at a time, for most of them use one core; the long ones come first. */
async function work() {
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    const [name, command, args] = next
    const { code, output } = await run(path.isAbsolute(command) ? command : packageCommand(command), args, {
      cwd: root,
    })
    console.log(`${code === 0 ? 'ok    ' : 'FAILED'} ${name}`)
    if (code === 0) continue
    failed++
    console.log(output)
  }
}
await Promise.all([work(), work()])
process.exit(failed ? 1 : 0)
