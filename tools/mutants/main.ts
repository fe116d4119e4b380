// npm run mutants: changes numbers and operators in the engineering, one at a time, and counts how many of the changes
// the tests notice. The tree is not touched: the tests are bundled with all changes in them, each behind a switch.
// Options: --count 300 --seed 1 --folders units,acoustics --all --seconds 40 --wanted 85
import { fork, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import fc from 'fast-check'
import { bundleTests } from './bundles'
import type { Change } from './changes'
import type { Answer, FileBaseline, Request, Tried } from './runner'
import { readOptions } from '../options.mjs'

const { values } = readOptions(
  'npm run mutants -- [--count 300] [--seed 1] [--folders units,acoustics] [--file PART] [--all] [--seconds 40] [--wanted 85]',
  {
    count: { type: 'string', default: '300' },
    seed: { type: 'string', default: '1' },
    folders: { type: 'string', default: 'units,acoustics,circuit,levels,measure' },
    /** Only changes whose place, path:line, contains this. */
    file: { type: 'string', default: '' },
    /** Every change instead of a sample. */
    all: { type: 'boolean', default: false },
    /** How long tests may look at one change. */
    seconds: { type: 'string', default: '40' },
    wanted: { type: 'string', default: '85' },
  },
)
const root = path.resolve(import.meta.dirname, '../..')
/** Slower tests are left out, since they would run for many changes. With the switches they take several times as long. */
const longestTestMs = 12_000
/** Extra time after which a silent runner is taken to be in an endless loop. */
const patienceMs = 20_000

/** Asks a separate process; a silent one is killed and started again, and its answer is `undefined`. */
class Runner {
  private child: ChildProcess | undefined

  ask(request: Request, timeoutMs: number): Promise<Answer | undefined> {
    const child = (this.child ??= fork(path.join(import.meta.dirname, 'runner.ts')))
    return new Promise((resolve) => {
      const end = (answer?: Answer) => {
        clearTimeout(timer)
        child.removeAllListeners()
        if (!answer) this.stop()
        resolve(answer)
      }
      const timer = setTimeout(end, timeoutMs)
      child.once('message', (answer: Answer) => end(answer))
      child.once('exit', () => end())
      child.send(request)
    })
  }

  stop(): void {
    this.child?.kill('SIGKILL')
    this.child = undefined
  }
}

/** One answer for each request, by as many runners as there are cores. */
async function askAll<T>(
  items: readonly T[],
  requestOf: (item: T) => Request,
  timeoutMs: number,
  each: (item: T, answer: Answer | undefined) => void,
): Promise<void> {
  const waiting = [...items]
  await Promise.all(
    Array.from({ length: os.availableParallelism() }, async () => {
      const runner = new Runner()
      for (let item = waiting.shift(); item !== undefined; item = waiting.shift())
        each(item, await runner.ask(requestOf(item), timeoutMs))
      runner.stop()
    }),
  )
}

async function baselinesOf(script: string, tests: readonly string[]): Promise<Map<string, FileBaseline>> {
  const baselines = new Map<string, FileBaseline>()
  await askAll(
    tests,
    (test) => ({ script, measure: test }),
    600_000,
    (test, answer) => {
      if (!answer || !('baseline' in answer)) throw new Error(`${test} did not end.`)
      const failing = answer.baseline.tests.find(({ error }) => error)
      // tests that fail by themselves would notice everything
      if (failing)
        throw new Error(
          `${test}: "${failing.name}" fails without any change: ${failing.error} Mend it first.`,
        )
      baselines.set(test, answer.baseline)
    },
  )
  return baselines
}

/**
 * The tests that pass a change: its own file's first, then those of its folder; of each the files first that pass most
 * changes in their time, for they notice most, and the quick tests first.
 */
function testsFor(change: Change, baselines: ReadonlyMap<string, FileBaseline>): Tried[] {
  const folder = path.dirname(change.file)
  const rank = (test: string) =>
    test === change.file.replace(/\.ts$/, '.test.ts') ? 0 : path.dirname(test) === folder ? 1 : 2
  const passing = [...baselines].flatMap(([file, { loadMs, loadPasses, tests }]) => {
    const onLoad = loadPasses.includes(change.id)
    const passed = tests
      .map(({ passes, ms }, index) => ({ passes, ms, index }))
      .filter(({ passes, ms }) => ms < longestTestMs && (onLoad || passes.includes(change.id)))
      .sort((one, other) => one.ms - other.ms)
    const passes = passed.reduce((sum, each) => sum + each.passes.length, 0)
    const ms = passed.reduce((sum, each) => sum + each.ms, loadMs)
    return passed.length
      ? [{ file, tests: passed.map(({ index }) => index), rank: rank(file), passesPerMs: passes / ms }]
      : []
  })
  return passing
    .sort((one, other) => one.rank - other.rank || other.passesPerMs - one.passesPerMs)
    .map(({ file, tests }) => ({ file, tests }))
}

function chosenFrom(changes: readonly Change[]): Change[] {
  const possible = changes.filter(({ file, line }) => `${file}:${line}`.includes(values.file))
  if (values.all) return possible
  const count = Math.min(Number(values.count), possible.length)
  const [chosen] = fc.sample(fc.shuffledSubarray(possible, { minLength: count, maxLength: count }), {
    numRuns: 1,
    seed: Number(values.seed),
  })
  return chosen!
}

async function main(): Promise<void> {
  const tests = readdirSync(path.join(root, 'core/src'), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.test.ts'))
    .map((file) => `core/src/${file}`)
    .sort()
  const outDir = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-mutants-'))
  symlinkSync(path.join(root, 'node_modules'), path.join(outDir, 'node_modules'))
  try {
    const { changes, script } = await bundleTests(root, tests, values.folders.split(','), outDir)
    const baselines = await baselinesOf(script, tests)
    const chosen = chosenFrom(changes)
    console.log(`${tests.length} files of tests, ${changes.length} changes; ${chosen.length} are tried`)
    const budgetMs = 1000 * Number(values.seconds)
    let tried = 0
    let noticed = 0
    await askAll(
      chosen,
      (change) => ({ script, change: change.id, tried: testsFor(change, baselines), budgetMs }),
      budgetMs + patienceMs,
      ({ file, line, before, after }, answer) => {
        // silence is an endless loop, and the caller notices that
        const seen = !answer || ('noticed' in answer && answer.noticed)
        if (seen) noticed++
        else {
          const why = answer && 'ranOut' in answer && answer.ranOut ? ' (time ran out)' : ''
          console.log(`not noticed: ${file}:${line} ${before} -> ${after}${why}`)
        }
        if (++tried % 50 === 0) console.log(`${tried} of ${chosen.length} tried, ${noticed} noticed`)
      },
    )
    const share = (100 * noticed) / chosen.length
    console.log(
      `\n${noticed} of ${chosen.length} changes noticed (${share.toFixed(0)} %), of ${changes.length} possible`,
    )
    process.exitCode = share >= Number(values.wanted) ? 0 : 1
  } finally {
    rmSync(outDir, { recursive: true, force: true })
  }
}

await main()
