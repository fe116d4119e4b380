import { expect } from '@playwright/test'
import { test as plain } from '@playwright/test'
import { Application } from '../tools/running'
import { accessible, open, settled } from './steps'

/** An application that is shared: what the others use is not. */
const test = plain.extend<object, { application: Application }>({
  application: [
    async ({}, use) => {
      const application = new Application(Number(process.env.E2E_PORT ?? 4399) + 40)
      await application.start('--share')
      await use(application)
      await application.end()
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  baseURL: ({ application }, use) => use(application.address),
})

test(
  'a phone is let in with a code from the laptop, sees what the laptop does at once, and is shut out again',
  { tag: '@long' },
  async ({ page, browser, application }) => {
    test.setTimeout(120_000)
    await open(page, 'roll')
    await page.getByRole('button', { name: 'Menu' }).click()
    await page.getByRole('menuitem', { name: 'Share with a phone' }).click()
    const dialog = page.getByRole('dialog', { name: 'Share with a phone' })
    await dialog.getByRole('button', { name: 'Show a code' }).click()
    const code = (await dialog.getByRole('status').textContent())!
    expect(code).toMatch(/^\d{3} \d{3}$/)
    await accessible(page)

    const phone = await (
      await browser.newContext({
        baseURL: `https://localhost:${application.port + 1}`,
        ignoreHTTPSErrors: true,
        viewport: { width: 390, height: 844 },
        hasTouch: true,
        serviceWorkers: 'block',
      })
    ).newPage()
    const scene = new URL(page.url()).pathname
    await phone.goto(scene)
    await expect(phone).toHaveURL(/\/pair$/)
    await accessible(phone)
    await phone.getByLabel(/Code on the laptop/).fill('000 000')
    await phone.getByRole('button', { name: 'Pair' }).tap()
    await expect(phone.getByRole('alert')).toContainText('wrong or older than two minutes')
    await phone.getByLabel(/Code on the laptop/).fill(code)
    await phone.getByLabel(/What this device is called/).fill('Phone on the set')
    await phone.getByRole('button', { name: 'Pair' }).tap()
    await expect(phone).toHaveURL(/:\d+\/$/)
    await phone.goto(scene)
    await expect(phone.getByRole('button', { name: 'Roll take 1' })).toBeVisible()
    await expect(dialog.getByText('Phone on the set')).toBeVisible()
    await page.keyboard.press('Escape')
    await phone.waitForTimeout(1000)
    await page.getByRole('button', { name: 'Roll take 1' }).click()
    await expect(phone.getByText('ROLLING', { exact: true })).toBeVisible({ timeout: 1000 })
    await phone.getByRole('button', { name: 'End take' }).tap()
    await settled(phone)
    await expect(page.getByRole('button', { name: 'Roll take 2' })).toBeVisible({ timeout: 1000 })

    await page.getByRole('button', { name: 'Menu' }).click()
    await page.getByRole('menuitem', { name: 'Share with a phone' }).click()
    await dialog.getByRole('button', { name: 'Remove' }).click()
    await expect(dialog.getByText('None yet.')).toBeVisible()
    await phone.getByRole('button', { name: 'Roll take 2' }).tap()
    await expect(phone.getByText(/not paired/)).toBeVisible()
    await expect(phone.locator('.stored')).toContainText(/kept here/)
    await phone.getByRole('button', { name: 'Pair', exact: true }).tap()
    await expect(phone).toHaveURL(/\/pair$/)
  },
)
