// Runs in a process of its own, because a change may loop for ever: evaluates bundled tests with one change made, and says
// whether they notice it.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { performance } from 'node:perf_hooks'
import { JestAsymmetricMatchers, JestChaiExpect, JestExtend } from '@vitest/expect'
import * as chai from 'chai'
import fc from 'fast-check'
import { make, passedSince, switches } from './switches'

/** The tests of a file without any change. */
export interface FileBaseline {
  /** Time to evaluate the file with its imports, ms. */
  loadMs: number
  /** Changes that are passed while the file is loaded. */
  loadPasses: number[]
  tests: { name: string; passes: number[]; ms: number; error?: string }[]
}
/** Tests of a file, by their place in it. */
export interface Tried {
  file: string
  tests: number[]
}
export type Request =
  | { script: string; measure: string }
  | { script: string; change: number; tried: Tried[]; budgetMs: number }
export type Answer = { baseline: FileBaseline } | { noticed: boolean; ranOut: boolean }

interface Test {
  name: string
  run: () => unknown
}

chai.use(JestExtend)
chai.use(JestChaiExpect)
chai.use(JestAsymmetricMatchers)
// the smallest counter-example interests nobody here
fc.configureGlobal({ endOnFailure: true })
const expect = Object.assign((value: unknown, note?: string) => chai.expect(value, note), chai.expect)

type Body = (...values: unknown[]) => unknown
/** A name and what is done, with options or a time allowed beside it. */
type Given = [name: string, ...rest: readonly (Body | object | number)[]]

/** The part of the test runner's interface that tests of core use. They run in their short form. */
function runnerFor(tests: Test[]) {
  const before: (() => unknown)[] = []
  let ready: Promise<void> | undefined
  const prepared = async () => {
    for (const each of before) await each()
  }
  const add = (name: string, body: Body, values: readonly unknown[] = []) => {
    const run = () => (ready ??= prepared()).then(() => body(...values))
    tests.push({ name, run })
  }
  const bodyOf = (given: Given) => given.find((each) => typeof each === 'function') as Body
  const each =
    (cases: readonly unknown[]) =>
    (...given: Given) =>
      cases.forEach((values) => add(given[0], bodyOf(given), Array.isArray(values) ? values : [values]))
  const it = (...given: Given) => add(given[0], bodyOf(given))
  const describe = Object.assign((...given: Given) => void bodyOf(given)(), {
    each:
      (cases: readonly unknown[]) =>
      (...given: Given) =>
        cases.forEach((values) => bodyOf(given)(...(Array.isArray(values) ? values : [values]))),
  })
  const nothing = Object.assign(() => undefined, { each: () => () => undefined })
  const real = Object.assign(it, { each })
  return {
    it: Object.assign(it, { each, runIf: (is: boolean) => (is ? real : nothing) }),
    describe: Object.assign(describe, { runIf: (is: boolean) => (is ? describe : nothing) }),
    beforeAll: (body: () => unknown) => void before.push(body),
    inject: () => false,
    expect,
  }
}

/** A script evaluated afresh, so that no memory of an earlier change stays: gives the tests of its files. */
function evaluated(script: string): (file: string) => Test[] {
  let runner: ReturnType<typeof runnerFor>
  const real = createRequire(script)
  const require = (name: string): unknown => (name === 'vitest' ? runner : real(name))
  const module = { exports: {} as Record<string, () => unknown> }
  // oxlint-disable-next-line typescript/no-implied-eval -- running a changed bundle is what this is for
  new Function('require', 'module', 'exports', '$', readFileSync(script, 'utf8'))(
    require,
    module,
    module.exports,
    switches,
  )
  return (file) => {
    const tests: Test[] = []
    runner = runnerFor(tests)
    module.exports[file]!()
    return tests
  }
}

async function measure(script: string, file: string): Promise<FileBaseline> {
  make(-1)
  passedSince()
  const began = performance.now()
  const tests = evaluated(script)(file)
  const loadMs = performance.now() - began
  const baseline: FileBaseline = { loadMs, loadPasses: passedSince(), tests: [] }
  for (const { name, run } of tests) {
    const start = performance.now()
    const error = await Promise.resolve()
      .then(run)
      .then(
        () => undefined,
        (thrown: unknown) => String(thrown),
      )
    const ms = performance.now() - start
    baseline.tests.push({ name, ms, passes: passedSince(), ...(error ? { error } : {}) })
  }
  return baseline
}

async function isNoticed(
  script: string,
  change: number,
  tried: readonly Tried[],
  budgetMs: number,
): Promise<Answer> {
  const end = performance.now() + budgetMs
  make(change)
  try {
    const testsOf = evaluated(script)
    for (const { file, tests: wanted } of tried) {
      const tests = testsOf(file)
      for (const index of wanted) {
        if (performance.now() > end) return { noticed: false, ranOut: true }
        await tests[index]!.run()
      }
    }
  } catch {
    return { noticed: true, ranOut: false }
  }
  return { noticed: false, ranOut: false }
}

process.on('message', (request: Request) => {
  const answer: Promise<Answer> =
    'measure' in request
      ? measure(request.script, request.measure).then((baseline) => ({ baseline }))
      : isNoticed(request.script, request.change, request.tried, request.budgetMs)
  void answer.then((message) => process.send!(message))
})
