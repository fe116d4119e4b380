import { test as plain } from '@playwright/test'
import { Application } from '../tools/running'
import { asShipped } from './as-shipped'

const firstPort = Number(process.env.E2E_PORT ?? 4399)

/** Each worker has an application of its own, and each test finds it as it ships. */
export const test = plain.extend<{ shipped: null }, { application: Application }>({
  application: [
    async ({}, use, { workerIndex }) => {
      const application = new Application(firstPort + workerIndex)
      await application.start()
      await use(application)
      await application.end()
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  baseURL: ({ application }, use) => use(application.address),
  shipped: [
    async ({ application }, use) => {
      await asShipped(application.address)
      await use(null)
    },
    { auto: true },
  ],
})
