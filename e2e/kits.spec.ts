import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled } from './steps'

test(
  'the ways to use a kit stand side by side: one is heard, another is used and taken back',
  { tag: '@long' },
  async ({ page }) => {
    test.setTimeout(240_000)
    await open(page, 'levels', 1)
    await page.getByRole('radio', { name: 'kits' }).click()
    await expect(page.getByRole('row', { name: /^As it is, balanced/ })).toBeVisible({ timeout: 60_000 })
    await expect(page.getByRole('status').filter({ hasText: 'powered and balanced' })).toHaveCount(0, {
      timeout: 90_000,
    })
    await expect.poll(() => page.getByRole('row').count()).toBeGreaterThan(4)
    // the two schools of gain, with what each leaves
    await expect(page.getByRole('row', { name: /^Feed it hot early/ })).toContainText('dB')
    await expect(page.getByRole('row', { name: /^No box works hard/ })).toContainText('dB')
    await accessible(page)

    const straight = page.getByRole('row', { name: /^Straight into the camera/ })
    await straight.getByRole('button', { name: /^Listen/ }).click()
    await expect(page.getByRole('button', { name: /Straight into the camera/ }).last()).toBeVisible({
      timeout: 60_000,
    })

    await straight.getByRole('button', { name: /^Use/ }).click()
    await settled(page)
    await page.getByRole('link', { name: /^Patch/ }).click()
    await expect(page.getByRole('button', { name: /recorder/i })).toHaveCount(0)
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await settled(page)

    // where the peaks lie costs so much: one is taken, with the controls that bring them there
    await open(page, 'levels', 2)
    await page.getByRole('radio', { name: 'kits' }).click()
    const ratioOf = async (name: RegExp) => {
      const row = page.getByRole('row', { name })
      await expect(row).toBeVisible({ timeout: 90_000 })
      return Number(/([\d.]+) dB/.exec(await row.locator('.figure').innerText())?.[1])
    }
    expect(await ratioOf(/^Hot/)).toBeGreaterThan((await ratioOf(/^Cautious/)) + 3)
    await page.getByRole('button', { name: /^Use hot/ }).click()
    await settled(page)
    await expect(page.getByRole('combobox', { name: 'Where peaks should lie' })).toContainText('hot')
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(page.getByRole('combobox', { name: 'Where peaks should lie' })).toContainText('usual')
  },
)
