import { expect } from '@playwright/test'
import { test } from './application'
import { open } from './steps'
test('look', async ({ page }) => {
  test.setTimeout(150000)
  page.on('pageerror', (e) => console.log('ERR', e.message))
  await page.setViewportSize({ width: 1280, height: 800 })
  await open(page, 'proof', 2)
  await page.screenshot({ path: '/tmp/p0.png' })
  await page.getByRole('button', { name: 'Measure the stand-in card' }).click()
  const list = page.getByRole('list', { name: 'Clips of this scene' })
  await expect(list.getByRole('listitem')).toHaveCount(7, { timeout: 100000 })
  await page.screenshot({ path: '/tmp/p1.png' })
  await list.getByRole('button', { name: /C-0042/ }).click()
  await page.getByRole('button', { name: 'Next place: clipped' }).first().click()
  await page.waitForTimeout(700)
  await page.screenshot({ path: '/tmp/p2.png' })
  await list.getByRole('button', { name: /R-0007/ }).click()
  await page.waitForTimeout(300)
  await page.screenshot({ path: '/tmp/p3.png' })
  await page.setViewportSize({ width: 390, height: 844 })
  await page.waitForTimeout(300)
  await page.screenshot({ path: '/tmp/p4.png', fullPage: true })
})
