import { expect, type Page } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled } from './steps'

test('two windows on one scene: the second is told, and keeps its change on top of the other', async ({
  page,
  context,
}) => {
  await open(page, 'levels')
  const other = await context.newPage()
  await open(other, 'levels')
  const gain = (each: Page) => each.getByRole('slider', { name: 'Recorder, Gain 2' })
  await gain(page).focus()
  await page.keyboard.press('ArrowUp')
  await settled(page)
  const peakTarget = other.getByRole('combobox', { name: 'Where peaks should lie' })
  await peakTarget.click()
  await other.getByRole('option', { name: /cautious/ }).click()
  const dialog = other.getByRole('dialog', { name: 'This scene was changed elsewhere' })
  await expect(dialog).toBeVisible()
  await expect(dialog.getByRole('listitem')).toHaveText([/plan: cautious peak target/])
  await expect(dialog.getByRole('row', { name: /Gain 2/ })).toBeVisible()
  await expect(other.getByRole('listbox')).toHaveCount(0)
  await accessible(other)
  await dialog.getByRole('button', { name: 'Put mine on top' }).click()
  await settled(other)
  await expect(gain(other)).toHaveAttribute(
    'aria-valuenow',
    (await gain(page).getAttribute('aria-valuenow'))!,
  )
  await other.reload()
  await expect(other.getByRole('combobox', { name: 'Where peaks should lie' })).toContainText('cautious')
})
