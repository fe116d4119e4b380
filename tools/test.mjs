// npm test: sets up all it needs, then checks, tests against a real database, and drives the application.
// npm run test:long: the same with every case and every story (core/src/tests/form.ts).
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { needBundle } from './bundles.mjs'
import { startDatabase } from './database.mjs'
import { needBrowser } from './browser.mjs'
import { checkNode, needBuild, needPackages, needPostgres, packageCommand, root } from './packages.mjs'
import { run } from './run.mjs'
import { endWith, secondsSinceStart } from './say.mjs'

async function main() {
  checkNode()
  // both are fetched and unpacked at once: each leaves a core idle
  const debian = needPostgres().then(needBrowser)
  debian.catch(() => undefined)
  await needPackages()
  // what is tested is built while the checks compute
  const prepared = Promise.all([
    debian,
    needBuild(),
    needBundle('server'),
    needBundle('cli'),
    needBundle('stories'),
  ])
  prepared.catch(() => undefined)
  const scratch = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-test-'))
  // the database's own user must be able to pass through
  chmodSync(scratch, 0o755)
  /** @type {string[]} */
  const failures = []
  let passed = 0
  let failed = 0
  /**
   * @param {string} name
   * @param {number | null} code
   */
  const say = (name, code) => {
    console.log(`\n${code === 0 ? 'passed' : 'FAILED'}: ${name} (${secondsSinceStart()} s)\n`)
    if (code !== 0) failures.push(name)
  }
  /**
   * Adds what a JSON report of tests counted.
   * @param {string} file
   * @param {(report: any) => [number, number]} read
   */
  const counted = (file, read) => {
    if (!existsSync(file)) return
    const [good, bad] = read(JSON.parse(readFileSync(file, 'utf8')))
    passed += good
    failed += bad
  }

  say('checks', (await run(process.execPath, ['tools/check.mjs'], { cwd: root, show: true })).code)

  await prepared
  const database = await startDatabase(path.join(scratch, 'home'))
  const env = { ...process.env, TEST_DATABASE_URL: database.adminUrl }
  /**
   * @param {string} project
   * @param {boolean} show as it goes, or whole at its end
   */
  const tested = async (project, show) => {
    const report = path.join(scratch, `${project}.json`)
    const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${report}`]
    const args = ['run', '--project', project, ...reporters]
    const { code, output } = await run(packageCommand('vitest'), args, { cwd: root, env, show })
    counted(report, ({ numPassedTests, numFailedTests }) => [numPassedTests, numFailedTests])
    return { code, output }
  }
  try {
    // at once, and each by itself: a run of both would import the page once in each of its processes
    const [engine, page] = await Promise.all([tested('engine', true), tested('page', false)])
    say('tests of the engine', engine.code)
    console.log(page.output)
    say('tests of the page', page.code)
  } finally {
    await database.stop()
  }

  const story = path.join(scratch, 'story.json')
  say(
    'the story in a browser',
    (
      await run(
        packageCommand('playwright'),
        ['test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'],
        {
          cwd: root,
          show: true,
          env: {
            ...process.env,
            IRON_HUSH_HOME: path.join(scratch, 'story'),
            PLAYWRIGHT_JSON_OUTPUT_FILE: story,
          },
        },
      )
    ).code,
  )
  counted(story, ({ stats }) => [stats.expected + stats.flaky, stats.unexpected])

  rmSync(scratch, { recursive: true, force: true })
  if (failures.length && failed === 0) failed = failures.length
  console.log(`${passed} passed, ${failed} failed`)
  process.exit(failures.length ? 1 : 0)
}

main().catch(endWith)
