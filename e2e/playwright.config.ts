import { defineConfig } from '@playwright/test'

const port = Number(process.env.E2E_PORT ?? 4399)

/** The real application, started as a person starts it, in a folder of its own. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 60_000,
  workers: 1,
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
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
