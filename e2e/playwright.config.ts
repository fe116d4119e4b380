import { defineConfig } from '@playwright/test'

/** The real application, started as a person starts it: one for each worker, in a folder of its own. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 60_000,
  workers: 2,
  fullyParallel: true,
  expect: { timeout: 10_000 },
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
