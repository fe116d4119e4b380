import { expect } from '@playwright/test'
import { test } from './application'
import { isLong } from './long'
import { open, settled } from './steps'

test.use({ serviceWorkers: 'allow' })

test(`while the server is away the page reloads, opens what was open and ${isLong ? 'every station' : 'a station more'}, and keeps what is done`, async ({
  page,
  application,
}) => {
  test.setTimeout(120_000)
  await open(page, 'levels')
  const knob = page.getByRole('slider', { name: 'Recorder, Gain 2' })
  await expect(knob).toBeVisible()
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
  await application.end()
  await page.reload()
  await knob.focus()
  await page.keyboard.press('End')
  await expect(knob).toHaveAttribute('aria-valuenow', '70')
  await page.reload()
  await expect(knob).toHaveAttribute('aria-valuenow', '70')
  for (const station of isLong ? ['Brief', 'Patch', 'Proof', 'Roll'] : ['Patch']) {
    await page.getByRole('navigation').getByRole('link', { name: station }).click()
    await expect(page).toHaveURL(new RegExp(`/${station.toLowerCase()}($|[?])`))
    await page.reload()
    await expect(page.locator('h1').first()).toBeVisible()
    await expect(page).toHaveTitle(new RegExp(station))
  }
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await application.start()
  await open(page, 'levels')
  await settled(page)
  await page.reload()
  await expect(knob).toHaveAttribute('aria-valuenow', '70')
})
