import { defineConfig } from '@playwright/test'
import { launchOptions } from '../tools/browser.mjs'
import { needBundle } from '../tools/bundles.mjs'
import { isLong } from './long'

// a story would read hundreds of files of core, in every process anew
await needBundle('stories')

/** The real application, started as a person starts it: one for each worker, in a folder of its own. */
export default defineConfig({
  testDir: '.',
  tsconfig: './stories.tsconfig.json',
  outputDir: '../test-results',
  timeout: 180_000,
  // each starts an application of its own; two keep two cores busy
  workers: 2,
  fullyParallel: true,
  // these run in the long form of the tests only
  grepInvert: isLong ? undefined : /@long/,
  expect: { timeout: 20_000 },
  reporter: 'list',
  use: {
    // a story finds what was built, not what an earlier one kept; offline.spec lets it
    serviceWorkers: 'block',
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions,
  },
})
