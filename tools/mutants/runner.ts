// Runs in a process of its own, because a change may loop for ever: evaluates bundled tests with one change made, and says
// whether they notice it.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { performance } from 'node:perf_hooks'
import { JestAsymmetricMatchers, JestChaiExpect, JestExtend } from '@vitest/expect'
import * as chai from 'chai'
import fc from 'fast-check'
import { make, passedSince, switches } from './switches'

/** What the tests of a file do without any change. */
export interface FileBaseline {
  script: string
  /** Changes that are passed while the file is loaded. */
  loadPasses: number[]
  tests: { name: string; passes: number[]; ms: number; error?: string }[]
}
/** Tests of a script, by their place in it. */
export interface Tried {
  script: string
  tests: number[]
}
export type Request = { measure: string } | { change: number; tried: Tried[]; budgetMs: number }
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

/** What tests take from their runner, as far as those of core do. They run in their short form. */
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

/** The tests of a script, evaluated afresh: no memory of an earlier change stays. */
function testsOf(script: string): Test[] {
  const tests: Test[] = []
  const runner = runnerFor(tests)
  const real = createRequire(script)
  const require = (name: string): unknown => (name === 'vitest' ? runner : real(name))
  const module = { exports: {} }
  // oxlint-disable-next-line typescript/no-implied-eval -- running a changed bundle is what this is for
  new Function('require', 'module', 'exports', '$', readFileSync(script, 'utf8'))(
    require,
    module,
    module.exports,
    switches,
  )
  return tests
}

async function measure(script: string): Promise<FileBaseline> {
  make(-1)
  passedSince()
  const tests = testsOf(script)
  const baseline: FileBaseline = { script, loadPasses: passedSince(), tests: [] }
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

async function isNoticed(change: number, tried: readonly Tried[], budgetMs: number): Promise<Answer> {
  const end = performance.now() + budgetMs
  make(change)
  for (const { script, tests: wanted } of tried) {
    try {
      const tests = testsOf(script)
      for (const index of wanted) {
        if (performance.now() > end) return { noticed: false, ranOut: true }
        await tests[index]!.run()
      }
    } catch {
      return { noticed: true, ranOut: false }
    }
  }
  return { noticed: false, ranOut: false }
}

process.on('message', (request: Request) => {
  const answer: Promise<Answer> =
    'measure' in request
      ? measure(request.measure).then((baseline) => ({ baseline }))
      : isNoticed(request.change, request.tried, request.budgetMs)
  void answer.then((message) => process.send!(message))
})
