import { expect } from '@playwright/test'
import { tone } from '@iron-hush/core/signals'
import { test } from './application'
import { hearing, rateHz } from './hearing'
import { open } from './steps'

const toneDbfs = -24
test.use(hearing(tone(997, toneDbfs, 20, rateHz)))

test(
  'a tone that the browser hears is taken as a reading of the line-up',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'line-up', 2)
    await page.locator('.head', { hasText: 'record level 1 of 25, tone at −30 dBFS' }).click()
    const current = page.locator('li.open')
    await current.getByRole('button', { name: 'Listen live' }).click()
    await expect(current.getByLabel('What is heard now')).toContainText(/−2[345]\.\d dBFS/)
    await current.getByRole('button', { name: 'Take this reading' }).click()
    await expect(page.locator('li', { hasText: 'record level 1 of 25, tone at −30 dBFS' })).toContainText(
      /tone −2[345]\.\d dBFS/,
    )
  },
)
