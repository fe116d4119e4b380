// Type check, lint, formatting, import directions, unused code.
import { run } from './run.mjs'
import { root } from './packages.mjs'

/** @type {[name: string, command: string, args: string[]][]} */
const checks = [
  ['types', 'npx', ['vue-tsc', '--noEmit', '-p', 'tsconfig.json']],
  // with types once more: those of core without DOM and Node, those of plain scripts from their comments
  ['lint of core and tools', 'npx', ['oxlint', 'core', 'tools', '--type-check', '--deny-warnings']],
  ['lint', 'npx', ['oxlint', 'server', 'web', 'cli', 'e2e', '--deny-warnings']],
  ['lint of templates', 'npx', ['eslint', 'web/src/**/*.vue', '--max-warnings', '0']],
  ['formatting', 'npx', ['oxfmt', '--check', '.']],
  [
    'import directions',
    'npx',
    ['depcruise', '--config', '.dependency-cruiser.cjs', 'core/src', 'server/src', 'web/src', 'cli/src'],
  ],
  ['unused code', 'npx', ['knip']],
  ['published schemas', 'npx', ['tsx', 'tools/schemas.ts', '--check']],
]

let failed = 0
const waiting = [...checks]
/** Two at a time, for most of them use one core; the long ones come first. */
async function work() {
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    const [name, command, args] = next
    const { code, output } = await run(command, args, { cwd: root })
    console.log(`${code === 0 ? 'ok    ' : 'FAILED'} ${name}`)
    if (code === 0) continue
    failed++
    console.log(output)
  }
}
await Promise.all([work(), work()])
process.exit(failed ? 1 : 0)
